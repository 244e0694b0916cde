<script setup lang="ts">
/** Charts of what is looked at: how a column is spread, one against another, by group; and what each card makes and takes. */
import { ElButton, ElEmpty, ElSegmented } from 'element-plus'
import { computed, nextTick, ref, watch } from 'vue'
import type { Kind } from '../../api/results'
import { within } from '../../model/charts'
import Chart from '../../shared/Chart.vue'
import Choice from '../../shared/controls/Choice.vue'
import { short } from '../../shared/numbers'
import { useCatalogue } from '../../stores/useCatalogue'
import { useEvaluation } from '../../stores/useEvaluation'
import { useGraph } from '../../stores/useGraph'
import { useSelection } from '../../stores/useSelection'
import { useInk } from '../../stores/insight/useInk'
import type { Cell } from '../useRows'
import { againstChart, cardChart, groupChart, spreadChart } from './chartOptions'
import { useValues, type Column } from './useValues'

const props = defineProps<{ kind: Kind; cells: Cell[] }>()
const emit = defineEmits<{ where: [formula: string] }>()
const FORMS = ['spread', 'against', 'by group', 'cards'] as const

const graph = useGraph()
const { reports } = useEvaluation()
const { operatorOf } = useCatalogue()
const selection = useSelection()
const form = ref<(typeof FORMS)[number]>('spread')
const first = ref('')
const second = ref('')
const range = ref<[number, number][]>([])

const numeric = computed(() => props.cells.filter((cell) => !['text', 'flag'].includes(cell.type)))
const groups = computed(() => props.cells.filter((cell) => cell.type === 'flag'))
const entries = computed(() => numeric.value.map((cell) => ({ value: cell.key, label: cell.title })))
const cellOf = (key: string) => numeric.value.find((cell) => cell.key === key)
watch(
  numeric,
  (now) => {
    if (!cellOf(first.value)) first.value = now.at(-1)?.key ?? ''
    if (!cellOf(second.value)) second.value = now.find((cell) => cell.key !== first.value)?.key ?? ''
  },
  { immediate: true },
)
watch([form, first, second, () => props.kind], () => (range.value = []))

const columns = computed<Column[]>(() => {
  if (form.value === 'cards') return []
  const keys = form.value === 'against' ? [first.value, second.value] : [first.value]
  const chosen = keys.flatMap((key) => cellOf(key) ?? []).map(({ name, part }) => ({ name, part }))
  return form.value === 'by group' ? [...chosen, ...groups.value.map(({ name }) => ({ name, part: 0 }))] : chosen
})
const kind = computed(() => props.kind)
const { values, trouble, waiting } = useValues(kind, columns)

const ink = useInk()
/** What each card makes and takes. */
const made = computed(() =>
  Object.entries(graph.document.value.nodes).flatMap(([id, node]) => {
    const report = reports.value[id]
    if (report?.state !== 'done') return []
    const title = node.title || operatorOf(node)?.label || id
    return [{ title, seconds: report.seconds, faces: report.counts?.faces ?? 0 }]
  }),
)
const shown = computed(() => {
  const [own = new Float64Array(), ...others] = values.value
  if (form.value === 'cards') return cardChart(ink.value, made.value)
  if (form.value === 'spread') return spreadChart(ink.value, own)
  if (form.value === 'by group')
    return groupChart(
      ink.value,
      own,
      others.map((flags, n) => ({ name: groups.value[n]?.name ?? '', flags })),
    )
  const titles: [string, string] = [cellOf(first.value)?.title ?? '', cellOf(second.value)?.title ?? '']
  return againstChart(ink.value, own, others[0] ?? [], titles)
})
const brush = computed(() => (form.value === 'spread' ? 'lineX' : form.value === 'against' ? 'rect' : undefined))

/** What is brushed is selected, in the view and in the rows. */
async function brushed(ranges: [number, number][]) {
  range.value = ranges
  if (!ranges.length || !['point', 'edge', 'corner', 'face'].includes(props.kind)) return
  const found = within(values.value.slice(0, ranges.length), ranges)
  selection.kind.value = props.kind
  await nextTick()
  selection.choose(found, false)
}

/** The brushed ranges as a formula that filters the rows. */
const formula = computed(() =>
  range.value
    .map(([low, high], n) => {
      const title = cellOf(n ? second.value : first.value)?.title ?? ''
      return `${title} >= ${Number(low.toPrecision(7))} and ${title} <= ${Number(high.toPrecision(7))}`
    })
    .join(' and '),
)
</script>

<template>
  <section class="charts" aria-label="Charts" data-test="charts">
    <div class="bar">
      <ElSegmented v-model="form" :options="[...FORMS]" aria-label="Which chart" data-test="chart-form" />
      <template v-if="form !== 'cards'">
        <Choice
          class="column"
          :value="first"
          :entries="entries"
          label="Column"
          data-test="chart-first"
          @choose="first = $event"
        />
        <template v-if="form === 'against'">
          <span class="faint">against</span>
          <Choice
            class="column"
            :value="second"
            :entries="entries"
            label="Against"
            data-test="chart-second"
            @choose="second = $event"
          />
        </template>
      </template>
      <span class="faint said" role="status">
        <template v-if="trouble">{{ trouble }}</template>
        <template v-else-if="waiting">fetching values …</template>
        <template v-else-if="range.length"
          >{{ range.map(([low, high]) => `${short(low)} … ${short(high)}`).join(', ') }} is selected</template
        >
        <template v-else-if="brush">drag over the chart to select</template>
      </span>
      <ElButton v-if="formula" text data-test="chart-where" @click="emit('where', formula)">list only these</ElButton>
    </div>
    <ElEmpty
      v-if="form !== 'cards' && numeric.length < (form === 'against' ? 2 : 1)"
      :image-size="50"
      :description="
        numeric.length
          ? `There is only one column of numbers on ${kind}s.`
          : `There is no column of numbers on ${kind}s.`
      "
    />
    <Chart
      v-else
      class="chart"
      :options="shown"
      :brush="brush"
      :label="form === 'cards' ? 'what each card makes and takes' : `${form}: ${cellOf(first)?.title ?? ''}`"
      @brush="brushed"
    />
  </section>
</template>

<style scoped>
.charts {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}
.bar {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 4px 8px;
  font-size: 13px;
}
.column {
  width: 130px;
}
.said {
  flex: 1;
  text-align: right;
}
.chart {
  flex: 1;
  margin: 0 6px 4px;
}
</style>
