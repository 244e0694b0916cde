<script setup lang="ts">
/** Values with keys as curves over the frames; their keys are chosen and dragged. */
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { withKey } from '../model/time/keyedValues'
import { useKeyedValues, type KeyedValue } from '../stores/useKeyedValues'
import { useTime } from '../stores/useTime'
import { rangeOf, roundNumbers, rounded, type Range } from './plotScale'
import type { useKeySelection } from './useKeySelection'
import { useTrack } from './useTrack'

export interface Curve {
  value: KeyedValue
  unit: string
  color: string
  samples: number[][] | null
}
const props = defineProps<{
  curves: Curve[]
  frames: number[]
  selection: ReturnType<typeof useKeySelection>
}>()

const TOP = 8
const BOTTOM = 22
const PAD = 46
const time = useTime()
const values = useKeyedValues()
const box = ref<HTMLElement>()
const { width, height } = useElementSize(box)
const span = computed<[number, number]>(() => [props.frames[0] ?? 0, props.frames.at(-1) ?? 1])
const { x, frameAt, perFrame, ticks } = useTrack(width, () => span.value, PAD)

const numbersOf = (value: unknown): number[] =>
  (Array.isArray(value) ? value : [value]).filter((part): part is number => typeof part === 'number')

/** One scale per unit. It rests while keys are dragged. */
const held = ref<Record<string, Range> | null>(null)
const scales = computed(() => {
  if (held.value) return held.value
  const numbers: Record<string, number[]> = {}
  for (const curve of props.curves) {
    if (!curve.samples) continue
    const own = [...curve.samples.flat(), ...curve.value.keyed.keys.flatMap((key) => numbersOf(key.value))]
    numbers[curve.unit] = (numbers[curve.unit] ?? []).concat(own)
  }
  return Object.fromEntries(Object.entries(numbers).map(([unit, all]) => [unit, rangeOf(all)]))
})
const room = computed(() => Math.max(height.value - TOP - BOTTOM, 1))
function y(unit: string, number: number): number {
  const { low, high } = scales.value[unit] ?? { low: 0, high: 1 }
  return TOP + (1 - (number - low) / (high - low)) * room.value
}
const perPixel = (unit: string) => {
  const { low, high } = scales.value[unit] ?? { low: 0, high: 1 }
  return (high - low) / room.value
}
/** The scale that is written at the left: of the first curve. */
const unit = computed(() => props.curves.find((curve) => curve.samples)?.unit ?? '')
const levels = computed(() =>
  scales.value[unit.value] ? roundNumbers(scales.value[unit.value]!, Math.max(room.value / 34, 2)) : [],
)

const DASHES = ['', '7 3', '2 3', '7 3 2 3']
const lines = computed(() =>
  props.curves.flatMap((curve) =>
    (curve.samples?.[0] ?? []).map((_, part) => ({
      id: `${curve.value.id}|${part}`,
      color: curve.color,
      dash: DASHES[part],
      points: curve.samples!.map((row, n) => `${x(props.frames[n]!)},${y(curve.unit, row[part]!)}`).join(' '),
    })),
  ),
)
const dots = computed(() =>
  props.curves.flatMap((curve, line) =>
    curve.value.keyed.keys.flatMap((key) =>
      (curve.samples ? numbersOf(key.value) : [null]).map((number, part) => ({
        id: `${curve.value.id}|${key.frame}|${part}`,
        curve,
        key,
        x: x(key.frame),
        y: number === null ? TOP + 12 + line * 14 : y(curve.unit, number),
        said: `${curve.value.label}, frame ${key.frame}: ${JSON.stringify(key.value)} ${curve.unit}`,
      })),
    ),
  ),
)
const boxed = ref<{ x: number; y: number; width: number; height: number } | null>(null)

function place(event: PointerEvent | MouseEvent): [number, number] {
  const { left, top } = box.value!.getBoundingClientRect()
  return [event.clientX - left, event.clientY - top]
}

/** Follow the pointer from here until it is let go. */
function follow(event: PointerEvent, move: (dx: number, dy: number, done: boolean) => void) {
  const target = event.currentTarget as Element
  target.setPointerCapture(event.pointerId)
  const pass = (next: Event) => {
    const { clientX, clientY } = next as PointerEvent
    move(clientX - event.clientX, clientY - event.clientY, next.type === 'pointerup')
    if (next.type !== 'pointermove') {
      target.removeEventListener('pointermove', pass)
      target.removeEventListener('pointerup', pass)
    }
  }
  target.addEventListener('pointermove', pass)
  target.addEventListener('pointerup', pass)
}

/** Choose a key, and drag all chosen ones: along the frames, and their values by the scale of their unit. */
function grab(event: PointerEvent, dot: (typeof dots.value)[number]) {
  if (event.shiftKey || !props.selection.isChosen(dot.curve.value.id, dot.key.frame))
    props.selection.choose(dot.curve.value.id, dot.key.frame, event.shiftKey)
  const chosen = props.selection.entries.value
  const units = new Map(props.curves.map((curve) => [curve.value.id, curve.unit]))
  let moved = false
  held.value = scales.value
  follow(event, (dx, dy, done) => {
    moved ||= Math.hypot(dx, dy) > 3
    if (moved) {
      const grown = (value: KeyedValue) => (number: number) => {
        const size = perPixel(units.get(value.id) ?? '')
        return Math.abs(dy) > 3 ? rounded(number - dy * size, size) : number
      }
      props.selection.carry(chosen, Math.round(dx / perFrame.value), grown, done)
    }
    if (done) held.value = null
  })
}

/** Choose all keys in a rectangle. */
function drawBox(event: PointerEvent) {
  const [fromX, fromY] = place(event)
  follow(event, (dx, dy, done) => {
    const area = { x: Math.min(fromX, fromX + dx), y: Math.min(fromY, fromY + dy) }
    boxed.value = done ? null : { ...area, width: Math.abs(dx), height: Math.abs(dy) }
    if (!done) return
    const found: Record<string, number[]> = event.shiftKey ? { ...mutable(props.selection.chosen.value) } : {}
    for (const dot of dots.value) {
      const inside =
        dot.x >= area.x && dot.x <= area.x + Math.abs(dx) && dot.y >= area.y && dot.y <= area.y + Math.abs(dy)
      const id = dot.curve.value.id
      if (inside) found[id] = [...new Set([...(found[id] ?? []), dot.key.frame])]
    }
    props.selection.chooseAll(found)
  })
}
const mutable = (chosen: Readonly<Record<string, readonly number[]>>) =>
  Object.fromEntries(Object.entries(chosen).map(([id, frames]) => [id, [...frames]]))

/** A double click sets a key on the nearest curve. */
function add(event: MouseEvent) {
  const [atX, atY] = place(event)
  const frame = Math.round(frameAt(atX))
  const n = props.frames.reduce(
    (best, at, index) => (Math.abs(at - frame) < Math.abs(props.frames[best]! - frame) ? index : best),
    0,
  )
  const away = (curve: Curve) => Math.min(...curve.samples![n]!.map((number) => Math.abs(y(curve.unit, number) - atY)))
  const nearest = props.curves.filter((curve) => curve.samples).sort((a, b) => away(a) - away(b))[0]
  if (!nearest) return
  const row = nearest.samples![n]!.map((number) => rounded(number, perPixel(nearest.unit)))
  const single = !Array.isArray(nearest.value.keyed.keys[0]?.value)
  values.change([[nearest.value, withKey(nearest.value.keyed, frame, single ? row[0] : row)]], 'set a key')
  props.selection.choose(nearest.value.id, frame, false)
}

/** Slopes of chosen keys that are free, as handles: a number per frame, for values that are one number. */
const HANDLE = 34
const handles = computed(() =>
  props.curves.flatMap((curve) =>
    curve.value.keyed.keys.flatMap((key, n, keys) => {
      if (!curve.samples || typeof key.value !== 'number' || !props.selection.isChosen(curve.value.id, key.frame))
        return []
      const sides = [
        ...(keys[n - 1]?.way === 'free' ? (['in'] as const) : []),
        ...(key.way === 'free' && n < keys.length - 1 ? (['out'] as const) : []),
      ]
      return sides.map((side) => {
        const way = side === 'out' ? 1 : -1
        const frames = (way * HANDLE) / perFrame.value
        const slope = typeof key[side] === 'number' ? key[side] : slopeAt(curve, key.frame, way)
        const from = { x: x(key.frame), y: y(curve.unit, key.value as number) }
        const at = { x: from.x + way * HANDLE, y: y(curve.unit, (key.value as number) + slope * frames) }
        return { id: `${curve.value.id}|${key.frame}|${side}`, curve, key, side, from, at, frames }
      })
    }),
  ),
)

/** The slope of a curve beside a frame, per frame, as it was sampled. */
function slopeAt(curve: Curve, frame: number, way: 1 | -1): number {
  const n = props.frames.findIndex((at) => at >= frame)
  const [a, b] = [curve.samples?.[n]?.[0], curve.samples?.[n + way]?.[0]]
  return a === undefined || b === undefined ? 0 : (b - a) / (props.frames[n + way]! - props.frames[n]!)
}

function turn(event: PointerEvent, handle: (typeof handles.value)[number]) {
  held.value = scales.value
  follow(event, (_, dy, done) => {
    const size = perPixel(handle.curve.unit)
    const reached = handle.at.y + dy
    const slope = rounded(((handle.from.y - reached) * size) / handle.frames, size / Math.abs(handle.frames))
    values.change(
      [
        [
          handle.curve.value,
          {
            ...handle.curve.value.keyed,
            keys: handle.curve.value.keyed.keys.map((key) =>
              key.frame === handle.key.frame ? { ...key, [handle.side]: slope } : key,
            ),
          },
        ],
      ],
      'set the slope of a key',
      done,
    )
    if (done) held.value = null
  })
}
</script>

<template>
  <div ref="box" class="plot" data-test="curve-plot">
    <svg :width="width" :height="height" @pointerdown.self="drawBox" @dblclick="add">
      <g v-for="tick in ticks" :key="`f${tick}`" class="grid">
        <line :x1="x(tick)" :x2="x(tick)" :y1="TOP" :y2="height - BOTTOM" />
        <text :x="x(tick)" :y="height - 7" text-anchor="middle">{{ tick }}</text>
      </g>
      <g v-for="level in levels" :key="`v${level}`" class="grid">
        <line :x1="PAD" :x2="width - 8" :y1="y(unit, level)" :y2="y(unit, level)" />
        <text :x="PAD - 6" :y="y(unit, level) + 4" text-anchor="end">{{ level }}{{ unit ? ` ${unit}` : '' }}</text>
      </g>
      <line
        class="needle"
        :x1="x(time.frame.value)"
        :x2="x(time.frame.value)"
        :y1="TOP"
        :y2="height - BOTTOM"
        pointer-events="none"
      />
      <polyline
        v-for="line in lines"
        :key="line.id"
        class="line"
        :points="line.points"
        :stroke="line.color"
        :stroke-dasharray="line.dash"
        data-test="curve-line"
      />
      <g v-for="handle in handles" :key="handle.id" class="handle">
        <line
          :x1="handle.from.x"
          :y1="handle.from.y"
          :x2="handle.at.x"
          :y2="handle.at.y"
          :stroke="handle.curve.color"
        />
        <rect
          :x="handle.at.x - 4"
          :y="handle.at.y - 4"
          width="8"
          height="8"
          :fill="handle.curve.color"
          data-test="slope-handle"
          @pointerdown.stop="turn($event, handle)"
        />
      </g>
      <path
        v-for="dot in dots"
        :key="dot.id"
        class="dot"
        :class="{ chosen: selection.isChosen(dot.curve.value.id, dot.key.frame) }"
        :d="`M${dot.x - 6} ${dot.y + 3} A6 6 0 0 1 ${dot.x + 6} ${dot.y + 3} Z`"
        :fill="dot.curve.color"
        data-test="curve-key"
        @pointerdown.stop="grab($event, dot)"
      >
        <title>{{ dot.said }}</title>
      </path>
      <rect v-if="boxed" class="box" v-bind="boxed" />
    </svg>
  </div>
</template>

<style scoped>
.plot {
  position: relative;
  flex: 1;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
}
svg {
  position: absolute;
  inset: 0;
  display: block;
  touch-action: none;
}
.grid line {
  stroke: var(--line);
  pointer-events: none;
}
.grid text {
  fill: var(--faint-ink);
  font: 11px var(--mono);
  pointer-events: none;
}
.needle {
  stroke: var(--ink);
  stroke-width: 1.5;
}
.line {
  fill: none;
  stroke-width: 1.8;
  pointer-events: none;
}
.dot {
  stroke: var(--sheet);
  cursor: grab;
}
.dot.chosen {
  stroke: var(--ink);
  stroke-width: 2.4;
}
.handle rect {
  stroke: var(--ink);
  cursor: ns-resize;
}
.box {
  fill: color-mix(in srgb, var(--accent) 12%, transparent);
  stroke: var(--accent);
}
</style>
