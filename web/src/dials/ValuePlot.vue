<script setup lang="ts">
/** Numbers over frames as lines, with the frame that one is at; the highest and the lowest one are written. */
import { computed } from 'vue'
import { rangeOf, rounded } from '../time/plotScale'

const props = defineProps<{ frames: number[]; samples: number[][]; frame: number; unit: string }>()
const WIDTH = 400
const HEIGHT = 76
const COLORS = ['--accent', '--ink', '--faint-ink', '--bad']

const range = computed(() => rangeOf(props.samples.flat()))
const ends = computed(() => {
  const all = props.samples.flat()
  const text = (value: number) => `${rounded(value, (range.value.high - range.value.low) / 500)} ${props.unit}`.trim()
  return { high: text(Math.max(...all)), low: text(Math.min(...all)) }
})
const first = computed(() => props.frames[0] ?? 0)
const last = computed(() => props.frames.at(-1) ?? 1)
const x = (frame: number) => ((frame - first.value) / Math.max(last.value - first.value, 1e-9)) * WIDTH
const y = (value: number) => (1 - (value - range.value.low) / (range.value.high - range.value.low)) * HEIGHT
const lines = computed(() =>
  (props.samples[0] ?? []).map((_, part) =>
    props.samples.map((row, n) => `${x(props.frames[n]!).toFixed(1)},${y(row[part]!).toFixed(1)}`).join(' '),
  ),
)
</script>

<template>
  <figure class="plot" aria-label="Values over the frames" data-test="value-plot">
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" preserveAspectRatio="none">
      <line class="needle" :x1="x(frame)" :x2="x(frame)" y1="0" :y2="HEIGHT" />
      <polyline
        v-for="(line, n) in lines"
        :key="n"
        :points="line"
        :style="{ stroke: `var(${COLORS[n % COLORS.length]})` }"
      />
    </svg>
    <template v-if="lines.length > 1">
      <b
        v-for="(last, n) in samples.at(-1)"
        :key="n"
        class="part"
        :style="{
          top: `${Math.min(Math.max(y(last) - 8, 0), HEIGHT - 16)}px`,
          color: `var(${COLORS[n % COLORS.length]})`,
        }"
        >{{ 'xyzw'[n] }}</b
      >
    </template>
    <span class="high">{{ ends.high }}</span>
    <span class="low">{{ ends.low }}</span>
    <figcaption class="faint">
      <span>frame {{ first }}</span
      ><span>{{ last }}</span>
    </figcaption>
  </figure>
</template>

<style scoped>
.plot {
  position: relative;
  margin: 2px 0 0;
  font-size: 12.5px;
}
svg {
  display: block;
  width: 100%;
  height: 76px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
polyline {
  fill: none;
  stroke-width: 1.6;
  vector-effect: non-scaling-stroke;
}
.needle {
  stroke: var(--faint-ink);
  stroke-dasharray: 3 3;
  vector-effect: non-scaling-stroke;
}
.high,
.low {
  position: absolute;
  left: 4px;
  color: var(--faint-ink);
}
.high {
  top: 1px;
}
.low {
  top: 58px;
}
.part {
  position: absolute;
  right: 4px;
  line-height: 16px;
}
figcaption {
  display: flex;
  justify-content: space-between;
}
</style>
