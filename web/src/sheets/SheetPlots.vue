<script setup lang="ts">
/** Plots of the variants; what is brushed in them is what the wall and the table show. */
import { ElButton, ElSegmented } from 'element-plus'
import { computed, ref, watch } from 'vue'
import Chart from '../shared/Chart.vue'
import Choice from '../shared/controls/Choice.vue'
import { useInk } from '../stores/insight/useInk'
import { parallelChart, scatterChart } from './sheetCharts'
import { useSheets } from './useSheets'

const sheets = useSheets()
const ink = useInk()
const FORMS = ['one against another', 'all side by side'] as const
const form = ref<(typeof FORMS)[number]>(FORMS[0])
const numeric = computed(() => sheets.columns.value.filter((one) => one.isNumber && one.key !== 'number'))
const entries = computed(() => numeric.value.map((one) => ({ value: one.key, label: one.title })))
const across = ref('')
const up = ref('')
/** At first one aim against another, or what was turned against what is sought or was noted. */
watch(
  () => entries.value.map((one) => one.value).join(),
  () => {
    const keys = entries.value.map((one) => one.value)
    const aims = sheets.aims.value.filter((key) => keys.includes(key))
    if (!keys.includes(across.value)) {
      across.value = (aims.length > 1 ? aims[0] : keys[0]) ?? ''
      up.value = aims[1] ?? aims[0] ?? ''
    }
    if (!keys.includes(up.value)) up.value = keys.find((key) => key.startsWith('numbers.')) ?? keys[1] ?? ''
  },
  { immediate: true },
)
const marked = computed(() => ({
  shown: new Set(sheets.shown.value.map((one) => one.number)),
  chosen: sheets.chosen.value,
  best: sheets.best.value,
}))
/** Between two aims, the best ones are a front. */
const isFront = computed(
  () => across.value !== up.value && [across.value, up.value].every((key) => sheets.aims.value.includes(key)),
)
const options = computed(() => {
  if (form.value !== FORMS[0]) {
    const columns = sheets.columns.value.filter((one) => one.key !== 'number' && one.key !== 'seconds')
    return parallelChart(ink.value, sheets.variants.value, columns, marked.value)
  }
  const [x, y] = [sheets.column(across.value), sheets.column(up.value)]
  return x && y ? scatterChart(ink.value, sheets.variants.value, x, y, marked.value, isFront.value) : null
})
/** Counts up when a plot is to begin anew, with nothing brushed. */
const turn = ref(0)
function clear() {
  sheets.ranges.value = {}
  turn.value++
}
watch([form, across, up], clear)
const key = computed(() => `${form.value} ${across.value} ${up.value} ${turn.value} ${sheets.sheet.value?.id}`)

function brush(found: [number, number][]) {
  const [x, y] = found
  sheets.ranges.value = x && y ? { [across.value]: [x], [up.value]: [y] } : {}
}
function axis(id: string, found: [number, number][]) {
  sheets.ranges.value = { ...sheets.ranges.value, [id]: found }
}
</script>

<template>
  <div class="plots">
    <div class="bar">
      <ElSegmented v-model="form" :options="[...FORMS]" aria-label="Plot" data-test="plot-form" />
      <template v-if="form === FORMS[0]">
        <Choice :value="across" :entries="entries" label="To the right" @choose="across = $event" />
        <Choice :value="up" :entries="entries" label="Upwards" @choose="up = $event" />
      </template>
      <ElButton v-if="sheets.brushed.value" text data-test="clear-brush" @click="clear">
        Show all again ({{ sheets.brushed.value.size }} brushed)
      </ElButton>
      <span v-else class="faint">{{
        form === FORMS[0]
          ? `${sheets.best.value.size ? '◆ best. ' : ''}Drag over dots to see only those.`
          : 'Drag along an axis to see only those.'
      }}</span>
    </div>
    <Chart
      v-if="options"
      :key="key"
      class="chart"
      steady
      :options="options"
      :brush="form === FORMS[0] ? 'rect' : undefined"
      label="Plot of the variants"
      @brush="brush"
      @axis="axis"
    />
    <p v-else class="faint">There are not two columns of numbers; note one more.</p>
  </div>
</template>

<style scoped>
.plots {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  padding: 6px 8px;
  border-bottom: 1px solid var(--line);
}
.bar .choice {
  width: 118px;
}
.chart {
  flex: 1;
}
p {
  padding: 12px;
}
</style>
