<script setup lang="ts">
/** A chart of ECharts, which is loaded when the first one is shown; areas are brushed by dragging. */
import { useResizeObserver } from '@vueuse/core'
import type { EChartsType } from 'echarts/core'
import { ElSkeleton } from 'element-plus'
import { onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'

const props = defineProps<{
  options: object
  label: string
  brush?: 'lineX' | 'rect'
  /** Whether axes and what is brushed stay while series change. */
  steady?: boolean
}>()
const emit = defineEmits<{
  /** The brushed ranges, one for each axis; none when the brush is taken away. */
  brush: [ranges: [number, number][]]
  /** The ranges that are brushed on one of many parallel axes, by its id. */
  axis: [id: string, ranges: [number, number][]]
}>()
const host = ref<HTMLElement>()
const chart = shallowRef<EChartsType>()

interface Brushed {
  areas: { coordRange: [number, number] | [number, number][] }[]
}

function draw() {
  const brush = props.brush && { brushType: props.brush, xAxisIndex: 0, throttleType: 'debounce', throttleDelay: 80 }
  const how = props.steady ? { replaceMerge: ['series'] } : { notMerge: true }
  chart.value?.setOption({ animation: false, ...props.options, ...(brush && { brush }) }, how)
  if (props.brush)
    chart.value?.dispatchAction({
      type: 'takeGlobalCursor',
      key: 'brush',
      brushOption: { brushType: props.brush, brushMode: 'single' },
    })
}

onMounted(async () => {
  const { init } = await import('./charting')
  if (!host.value) return
  chart.value = init(host.value)
  chart.value.on('brushEnd', (event) => {
    const range = (event as Brushed).areas[0]?.coordRange
    emit('brush', !range ? [] : Array.isArray(range[0]) ? (range as [number, number][]) : [range as [number, number]])
  })
  chart.value.on('axisareaselected', (event) => {
    const { parallelAxisId, intervals } = event as { parallelAxisId: string; intervals: [number, number][] }
    emit('axis', parallelAxisId, intervals)
  })
  draw()
})
watch(() => [props.options, props.brush], draw)
useResizeObserver(host, () => chart.value?.resize())
onBeforeUnmount(() => chart.value?.dispose())
</script>

<template>
  <div class="around">
    <ElSkeleton v-if="!chart" :rows="3" animated />
    <div ref="host" class="host" role="img" :aria-label="label" data-test="chart" :data-ready="!!chart" />
  </div>
</template>

<style scoped>
.around {
  position: relative;
  min-height: 90px;
}
.host {
  position: absolute;
  inset: 0;
}
</style>
