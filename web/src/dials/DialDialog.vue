<script setup lang="ts">
/** All about one dial: name, help, unit, ranges, step, default, section, and when it is shown. */
import { entriesOf } from '../shared/controls/choices'
import TextField from '../shared/controls/TextField.vue'
import Choice from '../shared/controls/Choice.vue'
import { ElButton, ElDialog, ElInput, ElRadioButton, ElRadioGroup } from 'element-plus'
import { computed, reactive } from 'vue'
import { describeDial } from '../model/nestedOperator'
import type { Dial } from '../model/document'
import { isKeyed, withKey } from '../model/time/keyedValues'
import { isFollowing } from '../model/time/following'
import ParameterField from '../fields/ParameterField.vue'
import { useChanges } from '../stores/useChanges'
import { typedNumber } from '../shared/numbers'
import { useCatalogue } from '../stores/useCatalogue'
import { useGraph } from '../stores/useGraph'
import { useTime } from '../stores/useTime'
import TableFields from './TableFields.vue'

const props = defineProps<{ name: string }>()
const emit = defineEmits<{ close: [] }>()
const graph = useGraph()
const changes = useChanges()
const time = useTime()

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
  if (isFollowing(value) && (!value.table || [value.value].flat().some((one) => !one)))
    return 'Choose the table, and the column that holds the values.'
  const words = (form.dial.options ?? []).map((entry) => entry.value)
  const chosen = isFollowing(value) ? [value.otherwise] : isKeyed(value) ? value.keys.map((key) => key.value) : [value]
  if (type === 'choice' && !chosen.every((one) => words.includes(one as string)))
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

function setSoft(side: 0 | 1, text: string) {
  const soft: [number, number] = [...(form.dial.soft ?? [0, 1])] as [number, number]
  soft[side] = typedNumber(text) ?? soft[side]
  form.dial.soft = soft
}

function showWhen(dial: string) {
  if (dial) form.dial.shown_when = { dial, value: graph.document.value.dials![dial]!.value }
  else delete form.dial.shown_when
}

const follows = computed(() => isFollowing(form.dial.value))
const mayFollow = computed(() => useCatalogue().catalogue.dial_types[form.dial.type]?.follows ?? false)

/** A dial that follows a table keeps its value beside that, and has it again when it follows none. */
function follow(table: boolean) {
  const { value } = form.dial
  if (table && !isFollowing(value))
    form.dial.value = { table: '', time: '', value: '', otherwise: isKeyed(value) ? value.keys[0]?.value : value }
  else if (!table && isFollowing(value)) form.dial.value = value.otherwise
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

/** A value that has keys gets one more; it loses them only when it goes back to its default. */
function setValue(value: unknown, plain = false) {
  const stored: unknown = form.dial.value
  form.dial.value = isKeyed(stored) && !plain ? withKey(stored, time.frame.value, value) : value
}
</script>

<template>
  <ElDialog
    model-value
    data-help="own_operators.html#dials"
    :title="`The dial ${name.replaceAll('_', ' ')}`"
    :width="follows ? 540 : 460"
    :top="follows ? '4vh' : undefined"
    append-to-body
    @close="emit('close')"
  >
    <form class="form" data-test="dial-form" @submit.prevent="keep">
      <label
        >name <ElInput v-model="form.name" class="mono" pattern="[A-Za-z_]\w{0,63}" required data-test="dial-name"
      /></label>
      <label
        >help
        <ElInput
          v-model="form.dial.help"
          maxlength="1000"
          data-test="dial-help"
          placeholder="what it does, for whoever uses it"
      /></label>
      <div v-if="form.dial.type in types" class="set">
        type
        <Choice
          :value="form.dial.type"
          :entries="entriesOf(Object.keys(types))"
          label="Type"
          data-test="dial-type"
          @choose="retype"
        />
      </div>
      <div v-else class="set">
        type <span>{{ form.dial.type }}</span>
      </div>
      <label v-if="ranged">unit <ElInput v-model="form.dial.unit" maxlength="20" placeholder="e.g. m or °" /></label>
      <template v-if="ranged && form.dial.type !== 'response curve'">
        <div v-if="!follows" class="set">
          slider from
          <span class="two"
            ><TextField
              inputmode="decimal"
              :value="form.dial.soft?.[0] ?? 0"
              label="Slider from"
              @settle="setSoft(0, $event)" />
            to
            <TextField
              inputmode="decimal"
              :value="form.dial.soft?.[1] ?? 1"
              label="Slider to"
              data-test="dial-soft-high"
              @settle="setSoft(1, $event)"
          /></span>
        </div>
        <div class="set">
          never below
          <span class="two"
            ><TextField
              inputmode="decimal"
              :value="form.dial.low"
              label="Never below"
              placeholder="no limit"
              @settle="form.dial.low = typedNumber($event)" />
            or above
            <TextField
              inputmode="decimal"
              :value="form.dial.high"
              label="Never above"
              placeholder="no limit"
              data-test="dial-high"
              @settle="form.dial.high = typedNumber($event)"
          /></span>
        </div>
        <label v-if="!follows"
          >step
          <TextField
            inputmode="decimal"
            :value="form.dial.step"
            label="Step"
            @settle="form.dial.step = typedNumber($event) ?? undefined"
        /></label>
      </template>
      <label v-if="form.dial.type === 'choice'"
        >words <ElInput v-model="options" type="textarea" :rows="3" placeholder="one on each line" />
      </label>
      <div v-if="mayFollow" class="set">
        {{ inside ? 'default' : 'value' }} is
        <ElRadioGroup
          :model-value="follows ? 'table' : 'set'"
          size="small"
          data-test="dial-source"
          @update:model-value="follow($event === 'table')"
        >
          <ElRadioButton value="set">set here</ElRadioButton>
          <ElRadioButton value="table">of a table, over time</ElRadioButton>
        </ElRadioGroup>
      </div>
      <TableFields
        v-if="isFollowing(form.dial.value)"
        :name="form.name"
        :dial="form.dial"
        :following="form.dial.value"
        @change="form.dial.value = $event"
      />
      <ParameterField
        v-else
        still
        :parameter="{ ...describeDial('default', form.dial), label: inside ? 'default' : 'value' }"
        :value="form.dial.value"
        :values="{}"
        :shapes="[]"
        @preview="setValue($event)"
        @commit="setValue"
      />
      <label
        >section
        <ElInput
          v-model="form.dial.section"
          maxlength="60"
          placeholder="dials of one section stand together"
          data-test="dial-section"
      /></label>
      <div class="set">
        shown
        <span class="two"
          ><Choice
            :value="form.dial.shown_when?.dial ?? ''"
            :entries="[
              { value: '', label: 'always' },
              ...others.map((other) => ({ value: other, label: `when ${other.replaceAll('_', ' ')} is` })),
            ]"
            label="Shown"
            data-test="dial-shown"
            @choose="showWhen" />
          <template v-if="form.dial.shown_when">
            <Choice
              v-if="typeof form.dial.shown_when.value === 'boolean'"
              :value="form.dial.shown_when.value ? 'yes' : 'no'"
              :entries="entriesOf(['yes', 'no'])"
              label="Value"
              @choose="form.dial.shown_when!.value = $event === 'yes'" />
            <TextField
              v-else
              :value="form.dial.shown_when.value as string"
              label="Value"
              @settle="form.dial.shown_when!.value = typedNumber($event) ?? $event" /></template
        ></span>
      </div>
      <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
      <p class="end">
        <ElButton text @click="emit('close')">Cancel</ElButton
        ><ElButton type="primary" native-type="submit" :disabled="!!trouble" data-test="keep-dial">Keep</ElButton>
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
label,
.set {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
}
label > :last-child,
.set > :last-child {
  flex: 1;
  max-width: 318px;
}
.two {
  display: flex;
  align-items: center;
  gap: 6px;
  max-width: 318px;
}
.two > * {
  flex: 1;
  min-width: 60px;
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
