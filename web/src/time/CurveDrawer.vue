<script setup lang="ts">
/** The values with keys as curves, in the drawer: of the selected cards, or all. */
import { useDebounceFn } from '@vueuse/core'
import { ElButton } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { isKeyed, type Way } from '../model/time/keyedValues'
import Choice from '../shared/controls/Choice.vue'
import TextField from '../shared/controls/TextField.vue'
import { useGraph } from '../stores/useGraph'
import { idOf, useKeyedValues } from '../stores/useKeyedValues'
import { useTime } from '../stores/useTime'
import CurvePlot, { type Curve } from './CurvePlot.vue'
import { useKeySelection } from './useKeySelection'

/** Told apart by colour and, within a value, by dashes; all of them can be read on the sheet by day and by night. */
const COLORS = ['--edge-border', '--accent', '--good', '--code-call', '--warn', '--code-number', '--bad', '--ink']
const WAY_ENTRIES = [
  { value: 'smooth', label: 'smooth', help: 'round, and nowhere beyond the values of the keys' },
  { value: 'straight', label: 'straight', help: 'in a straight line' },
  { value: 'hold', label: 'hold', help: 'stays, and jumps at the next key' },
  { value: 'free', label: 'free', help: 'round, by slopes that are dragged' },
]
const OUTSIDE_ENTRIES = [
  { value: 'hold', label: 'hold', help: 'the value of the key' },
  { value: 'repeat', label: 'repeat', help: 'all keys again from the beginning' },
  { value: 'swing', label: 'swing', help: 'all keys backwards, then forwards again' },
  { value: 'go on', label: 'go on', help: 'straight on as it goes at the key' },
]
const graph = useGraph()
const time = useTime()
const values = useKeyedValues()
const selection = useKeySelection()
const hidden = ref<string[]>([])
const sampled = shallowRef<Schemas['ChannelsState'] | null>(null)
const trouble = ref('')
const PAUSE_MS = 40
const SAMPLES = 241

const span = computed(() => {
  const at = values.all.value.flatMap((one) => one.keyed.keys.map((key) => key.frame))
  return {
    first: Math.min(time.timeline.value.first, ...at),
    last: Math.max(time.timeline.value.last, time.timeline.value.first + 1, ...at),
  }
})

const sample = useDebounceFn(async () => {
  const id = graph.state.value?.id
  if (!id || !values.all.value.length) return (sampled.value = null)
  try {
    sampled.value = await api.channels(id, { ...graph.basis(), ...span.value, count: SAMPLES })
    trouble.value = ''
  } catch (error) {
    trouble.value = error instanceof Error ? error.message : String(error)
  }
}, PAUSE_MS)
watch([values.all, span], () => void sample(), { immediate: true })

const listed = computed(() =>
  values.chosen.value.map((value, n) => {
    const channel = sampled.value?.channels.find((one) => idOf(one) === value.id)
    const color = `var(${COLORS[n % COLORS.length]})`
    return { value, unit: channel?.unit ?? '', color, samples: channel?.samples ?? null, trouble: channel?.trouble }
  }),
)
const shown = computed<Curve[]>(() => listed.value.filter((one) => !hidden.value.includes(one.value.id)))
const turn = (id: string) =>
  (hidden.value = hidden.value.includes(id) ? hidden.value.filter((one) => one !== id) : [...hidden.value, id])

const same = <T,>(all: T[]) => (new Set(all.map((one) => JSON.stringify(one))).size === 1 ? all[0] : undefined)
const way = computed(() => same(selection.keys.value.map((key) => key.way ?? 'smooth')) ?? '')
const frame = computed(() => same(selection.keys.value.map((key) => key.frame)))
const value = computed(() => same(selection.keys.value.map((key) => key.value)))
const outside = (side: 'before' | 'after') =>
  same(selection.entries.value.map((entry) => entry.value.keyed[side] ?? 'hold')) ?? ''
const chosen = computed(() => selection.keys.value.length)
const times = ref('2')

function scale() {
  const factor = Number(times.value)
  if (factor > 0 && factor <= 1000) return selection.scale(factor)
  trouble.value = `‘${times.value}’ is not how many times as long: give a number above 0.`
}

function setValue(text: string) {
  try {
    const typed: unknown = JSON.parse(/^[-+\d.[\]]|true|false/.test(text.trim()) ? text : JSON.stringify(text))
    const like = selection.keys.value[0]?.value
    if (Array.isArray(typed) !== Array.isArray(like) || typeof typed !== typeof like || isKeyed(typed))
      throw new Error()
    selection.setValue(typed)
    trouble.value = ''
  } catch {
    trouble.value = `‘${text}’ is not like the value of this key, ${JSON.stringify(selection.keys.value[0]?.value)}.`
  }
}

async function setFrame(text: string) {
  try {
    selection.setFrame((await api.frame(text, { frame: time.frame.value, ...time.timeline.value })).frame)
    trouble.value = ''
  } catch (error) {
    trouble.value = error instanceof Error ? error.message : String(error)
  }
}

function press(event: KeyboardEvent) {
  if (!['Delete', 'Backspace'].includes(event.key) || (event.target as HTMLElement).tagName === 'INPUT') return
  event.stopPropagation()
  event.preventDefault()
  selection.remove()
}
</script>

<template>
  <section
    class="curves"
    aria-label="Curves"
    data-help="time.html#keys"
    data-test="curve-drawer"
    tabindex="-1"
    @keydown="press"
  >
    <header>
      <b>Curves</b>
      <span class="faint grow">{{
        chosen
          ? `${chosen} ${chosen === 1 ? 'key' : 'keys'} chosen; drag them, or set:`
          : 'Click a key, or draw a box around several; a double click on a curve sets one.'
      }}</span>
      <ElButton text :disabled="!chosen" title="Put the chosen keys by" data-test="copy-keys" @click="selection.copy()"
        >copy</ElButton
      >
      <ElButton
        text
        title="Set the keys that were put by, the first of them at the frame that is looked at"
        :disabled="!selection.clipboard.value.length"
        data-test="paste-keys"
        @click="selection.paste(time.frame.value)"
        >paste</ElButton
      >
      <ElButton
        text
        :disabled="!chosen"
        title="Delete the chosen keys"
        data-test="delete-keys"
        @click="selection.remove()"
        >delete</ElButton
      >
      <ElButton text title="Back to the ledger" data-test="close-curves" @click="time.curves.value = false"
        >close</ElButton
      >
    </header>
    <fieldset v-if="listed.length" :disabled="!chosen">
      <label
        >frame
        <TextField
          class="short"
          :value="frame === undefined ? '' : String(frame)"
          label="Frame of the chosen keys"
          data-test="key-frame"
          @settle="setFrame"
      /></label>
      <label
        >value
        <TextField
          class="value"
          :value="value === undefined ? '' : JSON.stringify(value)"
          label="Value of the chosen keys"
          data-test="key-value"
          @settle="setValue"
      /></label>
      <label
        >way
        <Choice
          class="way"
          :value="way"
          :entries="WAY_ENTRIES"
          label="Way to the next key"
          data-test="key-way"
          @choose="selection.setWay($event as Way)"
      /></label>
      <label v-for="side in ['before', 'after'] as const" :key="side"
        >{{ side }}
        <Choice
          class="short"
          :value="outside(side)"
          :entries="OUTSIDE_ENTRIES"
          :label="`What is ${side} the keys`"
          :data-test="`keys-${side}`"
          @choose="selection.setOutside(side, $event)"
      /></label>
      <label title="So many times as far from the first chosen key"
        ><TextField
          class="times"
          :value="times"
          label="How many times as far from the first chosen key"
          @settle="times = $event"
        /><ElButton text data-test="scale-keys" @click="scale">× as long</ElButton></label
      >
    </fieldset>
    <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
    <div class="body">
      <ul v-if="listed.length">
        <li v-for="one in listed" :key="one.value.id">
          <ElButton
            text
            :aria-pressed="!hidden.includes(one.value.id)"
            :title="one.value.label"
            @click="turn(one.value.id)"
          >
            <i
              :style="{ background: hidden.includes(one.value.id) ? 'transparent' : one.color, borderColor: one.color }"
            />
            <span class="name">{{ one.value.label }}</span>
            <span v-if="one.unit" class="faint">{{ one.unit }}</span>
          </ElButton>
          <p v-if="one.trouble" class="bad">{{ one.trouble }}</p>
        </li>
      </ul>
      <p v-else class="faint none">
        Nothing has keys yet. Turn on <b>set keys</b> below the view and turn a value, or click the half disc beside
        one.
      </p>
      <CurvePlot v-if="listed.length" :curves="shown" :frames="sampled?.frames ?? []" :selection="selection" />
    </div>
  </section>
</template>

<style scoped>
.curves {
  display: flex;
  flex-direction: column;
  min-height: 0;
  background: var(--sheet);
  font-size: 13px;
  outline: none;
}
header,
fieldset {
  display: flex;
  align-items: center;
  gap: 2px 8px;
  margin: 0;
  padding: 2px 10px;
  border: 0;
  border-bottom: 1px solid var(--line);
}
fieldset {
  flex-wrap: wrap;
}
fieldset:disabled label,
fieldset:disabled .el-button {
  opacity: 0.5;
  pointer-events: none;
}
.curves .el-button {
  margin: 0;
  padding: 2px 5px;
}
label {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  color: var(--faint-ink);
}
.short {
  width: 72px;
}
.way {
  width: 86px;
}
.value {
  width: 84px;
}
.times {
  width: 40px;
}
.grow {
  flex: 1;
}
.body {
  display: flex;
  flex: 1;
  min-height: 0;
}
ul {
  flex: 0 0 190px;
  margin: 0;
  padding: 4px 6px;
  overflow: auto;
  list-style: none;
}
li .el-button {
  justify-content: flex-start;
  width: 100%;
  padding: 2px 4px;
}
i {
  flex: none;
  width: 10px;
  height: 10px;
  margin-right: 6px;
  border: 2px solid;
  border-radius: 50%;
}
.name {
  flex: 1;
  overflow: hidden;
  text-align: left;
  text-overflow: ellipsis;
}
.none {
  margin: 12px;
}
.bad {
  margin: 2px 8px;
  color: var(--bad);
}
</style>
