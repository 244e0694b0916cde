<script setup lang="ts">
/** Charts of what is looked at: how a column is spread, one against another, by group; and what each card makes and takes. */
import { ElButton, ElEmpty, ElSegmented } from 'element-plus'
import { computed, nextTick, ref, watch } from 'vue'
import type { Kind } from '../../api/results'
import { binned, evenly, fiveNumbers, within } from '../../model/charts'
import Chart from '../../shared/Chart.vue'
import Choice from '../../shared/controls/Choice.vue'
import { count, duration, short } from '../../shared/numbers'
import { useCatalogue } from '../../stores/useCatalogue'
import { useEvaluation } from '../../stores/useEvaluation'
import { useGraph } from '../../stores/useGraph'
import { useSelection } from '../../stores/useSelection'
import { useTheme } from '../../stores/useTheme'
import type { Cell } from '../useRows'
import { useValues, type Column } from './useValues'

const props = defineProps<{ kind: Kind; cells: Cell[] }>()
const emit = defineEmits<{ where: [formula: string] }>()
const FORMS = ['spread', 'against', 'by group', 'cards'] as const
/** Dots that are drawn at most, and bars of a histogram. */
const DOTS = 20_000
const BARS = 60

const graph = useGraph()
const { reports } = useEvaluation()
const { operatorOf } = useCatalogue()
const selection = useSelection()
const { theme } = useTheme()
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

/** Colours of the page, read anew when the theme changes. */
const ink = computed(() => {
  void theme.value
  const style = getComputedStyle(document.documentElement)
  const hue = (name: string) => style.getPropertyValue(name).trim()
  return {
    text: hue('--ink'),
    faint: hue('--faint-ink'),
    line: hue('--line'),
    bar: hue('--wire'),
    live: hue('--accent'),
  }
})
const axis = (more: { type: string; [name: string]: unknown }) => ({
  axisLabel: {
    color: ink.value.faint,
    fontSize: 12,
    hideOverlap: true,
    ...(more.type === 'value' && { formatter: short }),
  },
  axisLine: { lineStyle: { color: ink.value.line } },
  splitLine: { lineStyle: { color: ink.value.line, opacity: 0.5 } },
  ...more,
})
const base = computed(() => ({
  grid: { left: 8, right: 16, top: 12, bottom: 6, containLabel: true },
  tooltip: { renderMode: 'richText', confine: true, backgroundColor: ink.value.text, textStyle: { fontSize: 12 } },
}))

const spread = computed(() => {
  const { low, high, counts } = binned(values.value[0] ?? [], BARS)
  const wide = (high - low) / Math.max(counts.length, 1)
  const middles = counts.map((held, n) => [low + (n + 0.5) * wide, held])
  return {
    ...base.value,
    xAxis: axis({
      type: 'value',
      min: low,
      max: high === low ? low + 1 : high,
    }),
    yAxis: axis({ type: 'value' }),
    series: [{ type: 'bar', data: middles, barWidth: '96%', itemStyle: { color: ink.value.bar } }],
  }
})
const against = computed(() => {
  const [x, y] = [values.value[0] ?? [], values.value[1] ?? []]
  return {
    ...base.value,
    xAxis: axis({ type: 'value', scale: true, name: cellOf(first.value)?.title, nameLocation: 'middle', nameGap: 22 }),
    yAxis: axis({ type: 'value', scale: true, name: cellOf(second.value)?.title }),
    series: [
      {
        type: 'scatter',
        large: true,
        symbolSize: 4,
        itemStyle: { color: ink.value.bar, opacity: 0.6 },
        data: evenly(x.length, DOTS).map((i) => [x[i], y[i]]),
      },
    ],
  }
})
const byGroup = computed(() => {
  const [own, ...flags] = values.value
  const rows = [
    { name: 'all', five: fiveNumbers(own ?? []) },
    ...flags.map((flag, n) => ({
      name: groups.value[n]?.name ?? '',
      five: fiveNumbers((own ?? []).filter((_, i) => flag[i])),
    })),
  ].filter((row) => row.five)
  return {
    ...base.value,
    xAxis: axis({ type: 'category', data: rows.map((row) => row.name) }),
    yAxis: axis({ type: 'value', scale: true }),
    series: [
      {
        type: 'boxplot',
        data: rows.map((row) => row.five),
        itemStyle: { color: 'transparent', borderColor: ink.value.live },
      },
    ],
  }
})
const cards = computed(() => {
  const rows = Object.entries(graph.document.value.nodes).flatMap(([id, node]) => {
    const report = reports.value[id]
    if (report?.state !== 'done') return []
    return [
      {
        title: node.title || operatorOf(node)?.label || id,
        ms: report.seconds * 1000,
        faces: report.counts?.faces ?? 0,
      },
    ]
  })
  return {
    ...base.value,
    grid: { ...base.value.grid, right: 8 },
    xAxis: axis({ type: 'category', data: rows.map((row) => row.title) }),
    yAxis: [
      axis({ type: 'value', name: 'faces', axisLabel: { formatter: (n: number) => count(n), color: ink.value.faint } }),
      axis({
        type: 'value',
        name: 'time',
        splitLine: { show: false },
        axisLabel: { formatter: (n: number) => duration(n / 1000), color: ink.value.faint },
      }),
    ],
    series: [
      { type: 'bar', name: 'faces', data: rows.map((row) => row.faces), itemStyle: { color: ink.value.bar } },
      {
        type: 'bar',
        name: 'time',
        yAxisIndex: 1,
        data: rows.map((row) => Math.round(row.ms)),
        itemStyle: { color: ink.value.live },
      },
    ],
  }
})
const shown = computed(() => ({ spread, against, 'by group': byGroup, cards })[form.value].value)
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
      return `${title} >= ${Number(low.toPrecision(4))} and ${title} <= ${Number(high.toPrecision(4))}`
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
