<script setup lang="ts">
/** The frames of the graph below the view: which one is looked at, which are ready, where keys are; playing. */
import { useElementSize } from '@vueuse/core'
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import TextField from '../shared/controls/TextField.vue'
import { useKeyedValues } from '../stores/useKeyedValues'
import { useKeys } from '../stores/useKeys'
import { useTime } from '../stores/useTime'
import FrameSettings from './FrameSettings.vue'
import { stretches, useTrack } from './useTrack'

const time = useTime()
const { chosen } = useKeyedValues()
const { hint } = useKeys()
const track = ref<HTMLElement>()
const { width } = useElementSize(track)
const whole = computed<[number, number]>(() => [time.timeline.value.first, time.timeline.value.last])
const { x, frameAt, perFrame, ticks } = useTrack(width, () => whole.value)

const ready = computed(() => stretches(time.ready.value))
/** Labels of what has a key, by frame. */
const marks = computed(() => {
  const found = new Map<number, string[]>()
  for (const { label, keyed } of chosen.value)
    for (const key of keyed.keys) found.set(key.frame, [...(found.get(key.frame) ?? []), label])
  return [...found].map(([frame, labels]) => ({ frame, said: `frame ${frame}: ${labels.join(', ')}` }))
})

function drag(event: PointerEvent) {
  const element = event.currentTarget as HTMLElement
  if (event.type === 'pointerdown') element.setPointerCapture(event.pointerId)
  else if (!element.hasPointerCapture(event.pointerId)) return
  const at = frameAt(event.clientX - element.getBoundingClientRect().left)
  const frame = Math.min(Math.max(Math.round(at), whole.value[0]), whole.value[1])
  if (frame !== time.frame.value) time.go(frame)
}

/** The key before this frame, or after it. */
function toKey(way: -1 | 1) {
  const frames = marks.value.map((mark) => mark.frame).sort((a, b) => a - b)
  const next = way > 0 ? frames.find((at) => at > time.frame.value) : frames.findLast((at) => at < time.frame.value)
  if (next !== undefined) time.go(next)
}

function press(event: KeyboardEvent) {
  const [first, last] = whole.value
  const step = time.step.value
  const to = {
    ArrowLeft: Math.max(Math.ceil(time.frame.value) - step, first),
    ArrowRight: Math.min(Math.floor(time.frame.value) + step, last),
    Home: first,
    End: last,
  }[event.key]
  if (to !== undefined) time.go(to)
  else if (event.key === 'PageUp' || event.key === 'PageDown') toKey(event.key === 'PageUp' ? -1 : 1)
  else return
  event.preventDefault()
}
</script>

<template>
  <div class="strip" role="group" aria-label="Time" data-help="time.html#the-time-strip" data-test="time-strip">
    <ElButton
      text
      :aria-pressed="time.playing.value"
      :title="`${time.playing.value ? 'Stop' : 'Play the frames'}${hint('Play')}`"
      data-test="play"
      @click="time.playing.value ? time.stop() : time.play()"
    >
      {{ time.playing.value ? 'pause' : 'play' }}
    </ElButton>
    <ElButton text title="To the key before" aria-label="To the key before" :disabled="!marks.length" @click="toKey(-1)"
      >‹</ElButton
    >
    <ElButton text title="To the next key" aria-label="To the next key" :disabled="!marks.length" @click="toKey(1)"
      >›</ElButton
    >
    <span class="faint">frame</span>
    <TextField
      class="frame"
      :value="String(time.frame.value)"
      label="Frame"
      title="A number, or a formula such as 12+5 or last - 10"
      data-test="frame-field"
      @settle="time.type"
    />
    <div
      ref="track"
      class="track"
      role="slider"
      tabindex="0"
      aria-label="Frames; arrows step, Page Up and Page Down go from key to key"
      :aria-valuemin="whole[0]"
      :aria-valuemax="whole[1]"
      :aria-valuenow="time.frame.value"
      data-test="track"
      @pointerdown="drag"
      @pointermove="drag"
      @keydown="press"
    >
      <svg :width="width" height="34">
        <rect
          v-if="time.part.value"
          class="part"
          :x="x(time.range.value[0])"
          y="0"
          :width="Math.max(x(time.range.value[1]) - x(time.range.value[0]), 2)"
          height="34"
        />
        <g v-for="tick in ticks" :key="tick" class="tick">
          <line :x1="x(tick)" :x2="x(tick)" y1="13" y2="20" />
          <text :x="x(tick)" y="11">{{ tick }}</text>
        </g>
        <line class="ground" :x1="x(whole[0])" :x2="x(whole[1])" y1="24" y2="24" />
        <rect
          v-for="[from, to] in ready"
          :key="from"
          class="ready"
          :x="x(from) - perFrame / 2"
          y="25"
          :width="Math.max(x(to) - x(from) + perFrame, 2)"
          height="4"
        >
          <title>{{ from === to ? `frame ${from} is ready` : `frames ${from} to ${to} are ready` }}</title>
        </rect>
        <path
          v-for="mark in marks"
          :key="mark.frame"
          class="key"
          :d="`M${x(mark.frame) - 5} 24 A5 5 0 0 1 ${x(mark.frame) + 5} 24 Z`"
          data-test="key-mark"
        >
          <title>{{ mark.said }}</title>
        </path>
        <line
          class="needle"
          :class="{ behind: time.behind.value }"
          :x1="x(time.frame.value)"
          :x2="x(time.frame.value)"
          y1="0"
          y2="34"
        />
      </svg>
    </div>
    <span
      v-if="time.playing.value"
      class="mono faint speed"
      title="Pictures per second, of those that the graph asks for"
      >{{ time.speed.value }} of {{ time.timeline.value.rate }}/s</span
    >
    <span v-else-if="time.behind.value" class="faint speed" role="status">evaluating …</span>
    <ElButton
      class="arm"
      text
      :aria-pressed="time.armed.value"
      title="While this is on, turning a value or dragging a handle sets a key at this frame"
      data-test="arm"
      @click="time.armed.value = !time.armed.value"
    >
      <i class="light" />set keys
    </ElButton>
    <ElButton
      text
      :aria-pressed="time.curves.value"
      title="Show the values with keys as curves, in the drawer"
      data-test="curves"
      @click="time.curves.value = !time.curves.value"
      >curves</ElButton
    >
    <ElButton
      text
      title="Save all frames: as meshes, pictures or a film"
      data-test="frames"
      @click="time.saving.value = true"
      >save</ElButton
    >
    <FrameSettings />
    <p v-if="time.trouble.value" class="trouble" role="alert">{{ time.trouble.value }}</p>
  </div>
</template>

<style scoped>
.strip {
  position: relative;
  display: flex;
  align-items: center;
  gap: 4px;
  height: 36px;
  padding: 0 6px;
  border-top: 1px solid var(--line);
  background: var(--sheet);
  font-size: 13px;
}
.strip .el-button {
  min-width: 20px;
  margin: 0;
  padding: 2px 6px;
}
.frame {
  flex: 0 0 58px;
}
.track {
  flex: 1;
  min-width: 80px;
  height: 34px;
  cursor: ew-resize;
  touch-action: none;
}
svg {
  display: block;
}
.tick line,
.ground {
  stroke: var(--strong-line);
}
.tick text {
  fill: var(--faint-ink);
  font: 11px var(--mono);
  text-anchor: middle;
  pointer-events: none;
}
.ready {
  fill: var(--good);
  opacity: 0.75;
}
.part {
  fill: color-mix(in srgb, var(--accent) 12%, transparent);
}
.key {
  fill: var(--accent);
}
.needle {
  stroke: var(--ink);
  stroke-width: 2;
}
.behind {
  stroke-dasharray: 3 3;
}
.speed {
  flex: none;
}
.light {
  width: 9px;
  height: 9px;
  margin-right: 5px;
  border: 1px solid var(--strong-line);
  border-radius: 50%;
}
.arm[aria-pressed='true'] .light {
  border-color: var(--bad);
  background: var(--bad);
}
.trouble {
  position: absolute;
  left: 110px;
  bottom: 38px;
  z-index: 4;
  margin: 0;
  padding: 4px 9px;
  border: 1px solid var(--bad);
  border-radius: 5px;
  background: var(--raised);
  color: var(--bad);
}
</style>
