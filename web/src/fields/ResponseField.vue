<script setup lang="ts">
/** A response curve: drag its points, double-click for a new one, Delete removes the chosen one. */
import { computed, ref } from 'vue'
import { drawnAt, knotsOf, stepOf, withStep, type Step } from '../model/values/profile'
import { addPoint, movePoint, respond, type CurvePoint } from '../model/values/responseCurve'
import StepChoice from './StepChoice.vue'

const props = defineProps<{ value: CurvePoint[]; label: string; soft?: number[] | null; low?: number | null }>()
const emit = defineEmits<{ preview: [value: CurvePoint[]]; commit: [value: CurvePoint[]] }>()

const WIDE = 224
const TALL = 76
const canvas = ref<SVGSVGElement>()
const chosen = ref(-1)
const low = computed(() => Math.min(props.soft?.[0] ?? 0, ...props.value.map((point) => point[1])))
const high = computed(() => Math.max(props.soft?.[1] ?? 2, ...props.value.map((point) => point[1])))
const across = (x: number) => x * WIDE
const up = (y: number) => TALL - ((y - low.value) / (high.value - low.value)) * TALL
const line = computed(() =>
  drawnAt(knotsOf(props.value, 'smooth'), 56)
    .map((x) => `${across(x)},${up(respond(props.value, x))}`)
    .join(' '),
)
const point = computed(() => props.value[chosen.value])

function placeOf(event: MouseEvent): [number, number] {
  const box = canvas.value!.getBoundingClientRect()
  const x = ((event.clientX - box.left) / box.width) * (WIDE + 10) - 5
  const y = ((event.clientY - box.top) / box.height) * (TALL + 10) - 5
  return [Math.min(Math.max(x / WIDE, 0), 1), low.value + (1 - y / TALL) * (high.value - low.value)]
}

const moved = (index: number, to: [number, number]) => movePoint(props.value, index, to, props.low ?? -Infinity)

function grab(event: PointerEvent, index: number) {
  chosen.value = index
  const target = event.target as Element
  target.setPointerCapture(event.pointerId)
  let last = props.value
  const move = (next: PointerEvent) => {
    last = moved(index, placeOf(next))
    emit('preview', last)
  }
  const end = () => {
    target.removeEventListener('pointermove', move as EventListener)
    emit('commit', last)
  }
  target.addEventListener('pointermove', move as EventListener)
  target.addEventListener('pointerup', end, { once: true })
}

function add(event: MouseEvent) {
  const [x, y] = placeOf(event).map((part) => Math.round(part * 1000) / 1000) as [number, number]
  const next = addPoint(props.value, [x, Math.max(y, props.low ?? -Infinity)])
  chosen.value = next.findIndex((point) => !props.value.includes(point))
  emit('commit', next)
}

function goOn(step: Step) {
  emit(
    'commit',
    props.value.map((entry, i) => (i === chosen.value ? withStep(entry, step, 'smooth') : entry)),
  )
}

function key(event: KeyboardEvent, index: number) {
  const [x, y] = props.value[index]!
  const step = { ArrowLeft: [-0.02, 0], ArrowRight: [0.02, 0], ArrowUp: [0, 0.05], ArrowDown: [0, -0.05] }[event.key]
  if (step) emit('commit', moved(index, [x + step[0]!, y + step[1]!]))
  else if ((event.key === 'Delete' || event.key === 'Backspace') && props.value.length > 1)
    emit(
      'commit',
      props.value.filter((_, i) => i !== index),
    )
  else return
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <div class="response">
    <svg
      ref="canvas"
      :viewBox="`-5 -5 ${WIDE + 10} ${TALL + 10}`"
      role="group"
      :aria-label="label"
      data-test="response-curve"
      @dblclick="add"
    >
      <rect :width="WIDE" :height="TALL" class="ground" />
      <line x1="0" :x2="WIDE" :y1="up(1)" :y2="up(1)" class="one" />
      <polyline :points="line" class="curve" />
      <circle
        v-for="(entry, index) in value"
        :key="index"
        :cx="across(entry[0])"
        :cy="up(entry[1])"
        r="4.5"
        tabindex="0"
        :class="{ chosen: chosen === index }"
        :aria-label="`point ${index + 1}: ${entry[1]} at ${entry[0]}`"
        @pointerdown.stop.prevent="grab($event, index)"
        @keydown="key($event, index)"
        @focus="chosen = index"
      />
    </svg>
    <p class="hint">
      <span>along 0…1, up {{ low }}…{{ high }}</span
      ><span v-if="point">{{ point[0] }} → {{ point[1] }}</span
      ><span v-else>double-click adds</span>
    </p>
    <StepChoice
      v-if="point && chosen < value.length - 1"
      :value="stepOf(point, 'smooth')"
      :label="label"
      @commit="goOn"
    />
  </div>
</template>

<style scoped>
.response {
  flex: 1;
  min-width: 0;
}
svg {
  display: block;
  width: 100%;
  touch-action: none;
}
.ground {
  fill: var(--sheet);
  stroke: var(--line);
}
.one {
  stroke: var(--line);
  stroke-dasharray: 3 3;
}
.curve {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
circle {
  fill: var(--raised);
  stroke: var(--ink);
  stroke-width: 1.6;
  cursor: grab;
}
circle.chosen {
  fill: var(--accent);
}
.hint {
  display: flex;
  justify-content: space-between;
  margin: 0;
  color: var(--faint-ink);
  font-size: 12px;
}
</style>
