<script setup lang="ts">
/** Which table a dial follows, and how: columns, units, pace, what stands between and beyond the rows; with a picture. */
import { useDebounceFn } from '@vueuse/core'
import { ElUpload } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import type { Dial } from '../model/document'
import { columnsOf, paceOf, type Following } from '../model/time/following'
import { entriesOf } from '../shared/controls/choices'
import Choice from '../shared/controls/Choice.vue'
import TextField from '../shared/controls/TextField.vue'
import { short, typedNumber } from '../shared/numbers'
import { useCatalogue } from '../stores/useCatalogue'
import { tell } from '../stores/useChanges'
import { useGraph } from '../stores/useGraph'
import { useProject } from '../stores/useProject'
import { useTime } from '../stores/useTime'
import ValuePlot from './ValuePlot.vue'

const props = defineProps<{ name: string; dial: Dial; following: Following }>()
const emit = defineEmits<{ change: [following: Following] }>()
const graph = useGraph()
const project = useProject()
const time = useTime()
const words = computed(() => useCatalogue().catalogue.table_words)
const SAMPLES = 161
const PAUSE_MS = 150

const columns = computed(() => columnsOf(project.shapes.value.find((s) => s.name === props.following.table)?.summary))
const numbers = computed(() => columns.value.filter((one) => ['number', 'integer'].includes(one.type)))
const parts = computed(() => (Array.isArray(props.following.otherwise) ? props.following.otherwise.length : 1))
const chosen = computed(() => [props.following.value].flat())
const tables = computed(() => {
  const all = project.shapes.value.map((shape) => ({ name: shape.name, holds: columnsOf(shape.summary).length - 1 }))
  const sorted = all.sort((a, b) => Number(b.holds > 0) - Number(a.holds > 0))
  return sorted.map(({ name, holds }) => ({ value: name, label: name, help: holds > 0 ? '' : 'has places only' }))
})
/** Columns whose values this dial can take. */
const valueEntries = computed(() => {
  const wanted =
    parts.value > 1
      ? ['number', 'integer', `vec${parts.value}`]
      : ['choice', 'text'].includes(props.dial.type)
        ? ['text']
        : ['number', 'integer', 'flag']
  const fits = columns.value.filter((one) => wanted.includes(one.type) && one.name !== 'position')
  return fits.map((one) => ({ value: one.name, label: one.name, help: one.type }))
})
const inFrames = computed(() => props.following.unit === 'frame')
const pace = computed(() => Number(paceOf(props.following, words.value.units).toPrecision(6)))
const unit = computed(() => props.following.unit ?? 's')

function set(change: Partial<Following>) {
  emit('change', { ...props.following, ...change })
}

/** Another table: its first column of numbers that may be times, and the next one for values. */
function takeTable(table: string) {
  const found = columnsOf(project.shapes.value.find((shape) => shape.name === table)?.summary)
  const plain = found.filter((one) => ['number', 'integer'].includes(one.type)).map((one) => one.name)
  const named = plain.find((one) => /^(time|date|when|hour|minute|second|frame|t$)/i.test(one))
  const texts = found.filter((one) => one.type === 'text').map((one) => one.name)
  const rest = ['choice', 'text'].includes(props.dial.type) ? texts : plain.filter((one) => one !== named)
  const value = parts.value > 1 ? Array.from({ length: parts.value }, (_, n) => rest[n] ?? '') : (rest[0] ?? '')
  set({ table, time: named ?? '', value, unit: named ? (props.following.unit ?? 's') : 'frame' })
}

function takeValue(column: string, at: number) {
  const vector = columns.value.find((one) => one.name === column)?.type.startsWith('vec')
  if (parts.value === 1 || vector) return set({ value: column })
  set({ value: Array.from({ length: parts.value }, (_, n) => (n === at ? column : (chosen.value[n] ?? ''))) })
}

/** From when to when; of dates, which are long numbers, how long. */
function extent(first: number, last: number): string {
  return Math.abs(first) > 1e7 ? `over ${short(last - first)}` : `from ${short(first)} to ${short(last)}`
}

async function upload(file: File) {
  try {
    takeTable((await project.upload(file)).name)
  } catch (error) {
    tell(error)
  }
}

const found = shallowRef<Schemas['FollowedState'] | null>(null)
const trouble = ref('')
const sample = useDebounceFn(async () => {
  const id = graph.state.value?.id
  if (!id || !props.following.table || chosen.value.some((one) => !one)) return (found.value = null)
  const { first, last } = time.timeline.value
  const dial = JSON.parse(JSON.stringify({ ...props.dial, value: props.following })) as Record<string, unknown>
  try {
    const span = { first, last: Math.max(last, first + 1), count: SAMPLES }
    found.value = await api.followed(id, { ...graph.basis(), ...span, name: props.name, dial })
    trouble.value = found.value.trouble
  } catch (error) {
    found.value = null
    trouble.value = error instanceof Error ? error.message : String(error)
  }
}, PAUSE_MS)
watch([() => props.following, () => props.dial.low, () => props.dial.high], () => void sample(), { immediate: true })
</script>

<template>
  <div class="table" data-test="table-fields">
    <div class="set">
      table
      <span class="two"
        ><Choice
          :value="following.table || undefined"
          :entries="tables"
          label="Table"
          hint="a table of this project"
          data-test="table-name"
          @choose="takeTable"
        />
        <ElUpload
          class="file"
          accept=".csv,.parquet"
          :auto-upload="false"
          :show-file-list="false"
          data-test="table-file"
          :on-change="(file) => file.raw && upload(file.raw)"
          ><span class="link">a file …</span></ElUpload
        ></span
      >
    </div>
    <template v-if="following.table">
      <div class="set">
        times
        <span class="two"
          ><Choice
            :value="following.time ?? ''"
            :entries="[{ value: '', label: 'rows, counted from 0' }, ...entriesOf(numbers.map((one) => one.name))]"
            label="Times"
            data-test="table-time"
            @choose="set({ time: $event })" />
          <Choice
            class="short"
            :value="unit"
            :entries="entriesOf(Object.keys(words.units))"
            label="Unit of the times"
            data-test="table-unit"
            @choose="set({ unit: $event })"
        /></span>
      </div>
      <div class="set">
        values
        <span class="two"
          ><Choice
            v-for="n in Array.isArray(following.value) ? parts : 1"
            :key="n"
            :value="chosen[n - 1] || undefined"
            :entries="valueEntries"
            label="Values"
            hint="column"
            :data-test="`table-value-${n - 1}`"
            @choose="takeValue($event, n - 1)"
        /></span>
      </div>
      <div class="set">
        numbers ×
        <span class="two"
          ><TextField
            inputmode="decimal"
            :value="following.factor ?? 1"
            label="Factor"
            data-test="table-factor"
            @settle="set({ factor: typedNumber($event) ?? 1 })"
          />
          +
          <TextField
            inputmode="decimal"
            :value="following.add ?? 0"
            label="Added"
            @settle="set({ add: typedNumber($event) ?? 0 })"
          /><span class="unit faint">{{ dial.unit }}</span></span
        >
      </div>
      <div class="set">
        {{ inFrames ? 'first frame at' : 'begins at' }}
        <span class="two"
          ><TextField
            inputmode="decimal"
            :value="following.start"
            label="Begins at"
            :placeholder="inFrames ? 'its number' : 'the first row'"
            data-test="table-start"
            @settle="set({ start: typedNumber($event) })"
          /><span class="unit faint">{{ unit }}</span
          ><template v-if="!inFrames"
            >1 s is
            <TextField
              inputmode="decimal"
              :value="pace"
              label="Pace"
              data-test="table-pace"
              @settle="set({ speed: (typedNumber($event) ?? 1) * (words.units[unit] || 1) })"
            /><span class="unit faint">{{ unit }}</span></template
          ></span
        >
      </div>
      <div class="set">
        between rows
        <Choice
          :value="following.taken ?? 'straight'"
          :entries="Object.entries(words.taken).map(([value, help]) => ({ value, label: value, help }))"
          label="Between rows"
          data-test="table-taken"
          @choose="set({ taken: $event })"
        />
      </div>
      <div class="set">
        before, after
        <span class="two"
          ><Choice
            v-for="side in ['before', 'after'] as const"
            :key="side"
            :value="following[side] ?? 'hold'"
            :entries="Object.entries(words.outside).map(([value, help]) => ({ value, label: value, help }))"
            :label="`${side} the rows`"
            :data-test="`table-${side}`"
            @choose="set({ [side]: $event })"
        /></span>
      </div>
      <ValuePlot
        v-if="found?.samples"
        :frames="found.frames"
        :samples="found.samples"
        :frame="time.frame.value"
        :unit="dial.unit ?? ''"
      />
      <p v-if="found" class="faint small" data-test="table-said">
        {{ found.rows }} rows {{ extent(found.first, found.last) }} {{ inFrames ? 'frames' : unit }}.
        <span v-for="text in found.said" :key="text" class="said">Rows {{ text }}.</span>
      </p>
    </template>
    <p v-if="trouble" class="bad" role="alert" data-test="table-trouble">{{ trouble }}</p>
  </div>
</template>

<style scoped>
.table {
  display: flex;
  flex-direction: column;
  gap: 7px;
  margin-left: 6px;
  padding-left: 10px;
  border-left: 2px solid var(--line);
}
.set {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
}
.set > :last-child {
  flex: 1;
  max-width: 360px;
}
.two {
  display: flex;
  align-items: center;
  gap: 6px;
}
.two > * {
  flex: 1;
  min-width: 50px;
}
.two > .short {
  flex: 0 0 86px;
}
.two > .unit,
.two > .file {
  flex: none;
  min-width: 0;
}
.link {
  color: var(--accent);
  font-size: 13px;
}
.small {
  margin: 0;
  font-size: 13px;
}
.said {
  color: var(--warn, var(--ink));
}
.bad {
  margin: 0;
  color: var(--bad);
}
</style>
