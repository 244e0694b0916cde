<script setup lang="ts">
/** All about one dial: name, help, unit, ranges, step, default, section, and when it is shown. */
import { ElDialog } from 'element-plus'
import { computed, reactive } from 'vue'
import { describeDial } from '../model/nestedOperator'
import type { Dial } from '../model/document'
import ParameterField from '../fields/ParameterField.vue'
import { useChanges } from '../stores/useChanges'
import { useCatalogue } from '../stores/useCatalogue'
import { useGraph } from '../stores/useGraph'

const props = defineProps<{ name: string }>()
const emit = defineEmits<{ close: [] }>()
const graph = useGraph()
const changes = useChanges()

/** Types of which a dial can be made anew, with what it begins with. */
const types = computed(() =>
  Object.fromEntries(
    Object.entries(useCatalogue().catalogue.dial_types)
      .filter(([, known]) => known.fresh !== null)
      .map(([name, known]) => [name, known.fresh]),
  ),
)
const first = graph.document.value.dials?.[props.name]
const form = reactive({
  name: props.name,
  dial: JSON.parse(JSON.stringify(first ?? { type: 'number', value: 0 })) as Dial,
})
const inside = computed(() => graph.path.value.length > 0)
const ranged = computed(() => useCatalogue().catalogue.dial_types[form.dial.type]?.ranged ?? false)
const others = computed(() => Object.keys(graph.document.value.dials ?? {}).filter((other) => other !== props.name))
const options = computed({
  get: () => (form.dial.options ?? []).map((entry) => entry.value).join('\n'),
  set: (text) =>
    (form.dial.options = text
      .split('\n')
      .filter((line) => line.trim())
      .map((line) => ({
        value: line.trim(),
        help: form.dial.options?.find((entry) => entry.value === line.trim())?.help ?? '',
      }))),
})
const trouble = computed(() => {
  const { low, high, soft, step, type, value } = form.dial
  if (typeof low === 'number' && typeof high === 'number' && low > high)
    return 'The lower limit is above the upper one.'
  if (soft && soft[0] >= soft[1]) return 'The range of the slider must go up.'
  if (step !== undefined && !(step > 0)) return 'The step must be above 0.'
  if (
    typeof value === 'number' &&
    ((typeof low === 'number' && value < low) || (typeof high === 'number' && value > high))
  )
    return 'The default is outside of the limits.'
  if (type === 'choice' && !(form.dial.options ?? []).some((entry) => entry.value === value))
    return 'Choose one of the words as the default.'
  return ''
})

function retype(type: string) {
  form.dial = {
    type,
    value: types.value[type],
    help: form.dial.help,
    section: form.dial.section,
    unit: form.dial.unit,
    ...(type === 'number'
      ? { soft: [0, 1] as [number, number] }
      : type === 'integer'
        ? { soft: [0, 10] as [number, number], step: 1 }
        : {}),
  }
}

function number(text: string): number | null {
  return text.trim() === '' || Number.isNaN(Number(text)) ? null : Number(text)
}

function setSoft(side: 0 | 1, text: string) {
  const soft: [number, number] = [...(form.dial.soft ?? [0, 1])] as [number, number]
  soft[side] = number(text) ?? soft[side]
  form.dial.soft = soft
}

function showWhen(dial: string) {
  if (dial) form.dial.shown_when = { dial, value: graph.document.value.dials![dial]!.value }
  else delete form.dial.shown_when
}

async function keep() {
  const made = JSON.parse(JSON.stringify(form.dial)) as Dial
  if (inside.value) delete made.default
  graph.edit(`settings of the dial ${props.name.replaceAll('_', ' ')}`, (next) => (next.dials![props.name] = made))
  const name = form.name.trim()
  if (
    name &&
    name !== props.name &&
    !(await changes.make(`rename the dial ${props.name}`, 'rename dial', { dial: props.name, name }))
  )
    return
  emit('close')
}
</script>

<template>
  <ElDialog
    model-value
    :title="`The dial ${name.replaceAll('_', ' ')}`"
    width="460"
    append-to-body
    @close="emit('close')"
  >
    <form class="form" data-test="dial-form" @submit.prevent="keep">
      <label
        >name <input v-model="form.name" class="text mono" pattern="[A-Za-z_]\w{0,63}" required data-test="dial-name"
      /></label>
      <label
        >help
        <input
          v-model="form.dial.help"
          class="text"
          maxlength="1000"
          data-test="dial-help"
          placeholder="what it does, for whoever uses it"
      /></label>
      <label v-if="form.dial.type in types"
        >type
        <select
          class="text"
          :value="form.dial.type"
          data-test="dial-type"
          @change="retype(($event.target as HTMLSelectElement).value)"
        >
          <option v-for="(_, type) in types" :key="type" :value="type">{{ type }}</option>
        </select>
      </label>
      <label v-else
        >type <span>{{ form.dial.type }}</span></label
      >
      <label v-if="ranged"
        >unit <input v-model="form.dial.unit" class="text" maxlength="20" placeholder="e.g. m or °"
      /></label>
      <template v-if="ranged && form.dial.type !== 'response curve'">
        <label
          >slider from
          <span class="two"
            ><input
              class="text"
              inputmode="decimal"
              :value="form.dial.soft?.[0] ?? 0"
              aria-label="Slider from"
              @change="setSoft(0, ($event.target as HTMLInputElement).value)" />
            to
            <input
              class="text"
              inputmode="decimal"
              :value="form.dial.soft?.[1] ?? 1"
              aria-label="Slider to"
              data-test="dial-soft-high"
              @change="setSoft(1, ($event.target as HTMLInputElement).value)" /></span
        ></label>
        <label
          >never below
          <span class="two"
            ><input
              class="text"
              inputmode="decimal"
              :value="form.dial.low ?? ''"
              aria-label="Never below"
              placeholder="no limit"
              @change="form.dial.low = number(($event.target as HTMLInputElement).value)" />
            or above
            <input
              class="text"
              inputmode="decimal"
              :value="form.dial.high ?? ''"
              aria-label="Never above"
              placeholder="no limit"
              data-test="dial-high"
              @change="form.dial.high = number(($event.target as HTMLInputElement).value)" /></span
        ></label>
        <label
          >step
          <input
            class="text"
            inputmode="decimal"
            :value="form.dial.step ?? ''"
            aria-label="Step"
            @change="form.dial.step = number(($event.target as HTMLInputElement).value) ?? undefined"
        /></label>
      </template>
      <label v-if="form.dial.type === 'choice'"
        >words <textarea v-model="options" class="text" rows="3" placeholder="one on each line" />
      </label>
      <ParameterField
        :parameter="{ ...describeDial('default', form.dial), label: inside ? 'default' : 'value' }"
        :value="form.dial.value"
        :values="{}"
        :shapes="[]"
        @preview="form.dial.value = $event"
        @commit="form.dial.value = $event"
      />
      <label
        >section
        <input
          v-model="form.dial.section"
          class="text"
          maxlength="60"
          placeholder="dials of one section stand together"
          data-test="dial-section"
      /></label>
      <label
        >shown
        <span class="two"
          ><select
            class="text"
            :value="form.dial.shown_when?.dial ?? ''"
            aria-label="Shown"
            data-test="dial-shown"
            @change="showWhen(($event.target as HTMLSelectElement).value)"
          >
            <option value="">always</option>
            <option v-for="other in others" :key="other" :value="other">
              when {{ other.replaceAll('_', ' ') }} is
            </option>
          </select>
          <template v-if="form.dial.shown_when">
            <select
              v-if="typeof form.dial.shown_when.value === 'boolean'"
              class="text"
              :value="String(form.dial.shown_when.value)"
              aria-label="Value"
              @change="form.dial.shown_when!.value = ($event.target as HTMLSelectElement).value === 'true'"
            >
              <option value="true">yes</option>
              <option value="false">no</option>
            </select>
            <input
              v-else
              class="text"
              :value="form.dial.shown_when.value"
              aria-label="Value"
              @change="
                form.dial.shown_when!.value =
                  number(($event.target as HTMLInputElement).value) ?? ($event.target as HTMLInputElement).value
              "
            /> </template></span
      ></label>
      <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
      <p class="end">
        <button type="button" class="plain" @click="emit('close')">Cancel</button
        ><button class="plain boxed" :disabled="!!trouble" data-test="keep-dial">Keep</button>
      </p>
    </form>
  </ElDialog>
</template>

<style scoped>
.form {
  display: flex;
  flex-direction: column;
  gap: 7px;
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
}
label > :last-child {
  flex: 1;
}
label {
  justify-content: space-between;
}
label > .text {
  max-width: 318px;
}
.two {
  display: flex;
  align-items: center;
  gap: 6px;
  max-width: 318px;
}
.two .text {
  flex: 1;
  width: 60px;
}
.bad {
  margin: 0;
  color: var(--bad);
}
.end {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
  margin: 4px 0 0;
}
</style>
