<script setup lang="ts">
/** A colour gradient: drag its stops, double-click for a new one, Delete removes the chosen one. */
import { ElColorPicker } from 'element-plus'
import { computed, ref } from 'vue'
import { addStop, css, fromHex, moveStop, toHex, type Stop } from '../model/values/gradient'
import { stepOf, withStep, type Step } from '../model/values/profile'
import StepChoice from './StepChoice.vue'

const props = defineProps<{ value: Stop[]; label: string }>()
const emit = defineEmits<{ preview: [value: Stop[]]; commit: [value: Stop[]] }>()

const strip = ref<HTMLElement>()
const chosen = ref(0)
const stop = computed(() => props.value[chosen.value])

function shareOf(event: MouseEvent): number {
  const box = strip.value!.getBoundingClientRect()
  return Math.min(Math.max((event.clientX - box.left) / box.width, 0), 1)
}

function grab(event: PointerEvent, index: number) {
  chosen.value = index
  const target = event.target as HTMLElement
  target.setPointerCapture(event.pointerId)
  target.focus()
  let last = props.value
  const move = (next: PointerEvent) => {
    last = moveStop(props.value, index, shareOf(next))
    emit('preview', last)
  }
  const end = () => {
    target.removeEventListener('pointermove', move)
    if (last !== props.value) emit('commit', last)
  }
  target.addEventListener('pointermove', move)
  target.addEventListener('pointerup', end, { once: true })
}

function add(event: MouseEvent) {
  const next = addStop(props.value, shareOf(event))
  chosen.value = next.findIndex((entry) => !props.value.includes(entry))
  emit('commit', next)
}

function key(event: KeyboardEvent, index: number) {
  const step = { ArrowLeft: -0.02, ArrowRight: 0.02 }[event.key]
  if (step) emit('commit', moveStop(props.value, index, props.value[index]![0] + step))
  else if ((event.key === 'Delete' || event.key === 'Backspace') && props.value.length > 1) {
    chosen.value = 0
    emit(
      'commit',
      props.value.filter((_, i) => i !== index),
    )
  } else return
  event.preventDefault()
  event.stopPropagation()
}

function goOn(step: Step) {
  emit(
    'commit',
    props.value.map((entry, i) => (i === chosen.value ? withStep(entry, step, 'straight') : entry)),
  )
}

function paint(hex: string | null, final: boolean) {
  if (!hex) return
  const color = fromHex(hex)
  const next = props.value.map(
    (entry, i) => (i === chosen.value ? [entry[0], ...color, ...entry.slice(4)] : entry) as Stop,
  )
  if (final) emit('commit', next)
  else emit('preview', next)
}
</script>

<template>
  <div class="gradient" role="group" :aria-label="label" data-test="gradient">
    <div
      ref="strip"
      class="strip"
      :style="{ backgroundImage: css(value) }"
      title="Double-click adds a stop"
      @dblclick="add"
    >
      <span
        v-for="(entry, index) in value"
        :key="index"
        class="stop"
        :class="{ chosen: chosen === index }"
        :style="{ left: `${entry[0] * 100}%`, background: toHex(entry.slice(1, 4) as number[]) }"
        role="slider"
        tabindex="0"
        :aria-label="`stop ${index + 1} at ${entry[0]}`"
        aria-valuemin="0"
        aria-valuemax="1"
        :aria-valuenow="entry[0]"
        @pointerdown.stop.prevent="grab($event, index)"
        @keydown="key($event, index)"
        @focus="chosen = index"
      />
    </div>
    <p v-if="stop" class="hint">
      <span class="color"
        >colour
        <ElColorPicker
          :model-value="toHex(stop.slice(1, 4) as number[])"
          :aria-label="`${label}: colour of stop ${chosen + 1}`"
          :clearable="false"
          @active-change="paint($event, false)"
          @change="paint($event as string | null, true)"
        />
      </span>
      <span>stop {{ chosen + 1 }} of {{ value.length }} at {{ stop[0] }}</span>
    </p>
    <StepChoice
      v-if="stop && chosen < value.length - 1"
      :value="stepOf(stop, 'straight')"
      :label="label"
      @commit="goOn"
    />
  </div>
</template>

<style scoped>
.gradient {
  flex: 1;
  min-width: 0;
  padding: 2px 6px 0;
}
.strip {
  position: relative;
  height: 22px;
  margin-bottom: 6px;
  border: 1px solid var(--line);
  border-radius: 3px;
  touch-action: none;
}
.stop {
  position: absolute;
  top: 9px;
  width: 12px;
  height: 18px;
  padding: 0;
  margin-left: -6px;
  border: 1.6px solid var(--ink);
  border-radius: 3px;
  cursor: ew-resize;
}
.stop.chosen {
  outline: 2px solid var(--accent);
  outline-offset: 1px;
}
.hint {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin: 10px 0 0;
  color: var(--faint-ink);
  font-size: 12px;
}
.color {
  display: flex;
  align-items: center;
  gap: 6px;
}
</style>
