<script setup lang="ts">
/** The line between two pictures that are compared: beside each other it stands, across it is dragged. Says which is which. */
import { ref } from 'vue'
import { revisionOf } from '../../model/revisions'
import { useView } from '../../stores/useView'

const props = defineProps<{ mine: string; other: string; name: (id: string) => string }>()
const view = useView()
const ground = ref<HTMLElement>()
const STEP = 0.02

const otherName = () => (revisionOf(props.other) === null ? props.name(props.other) : `${props.mine}, earlier`)
const keep = (at: number) => (view.line = Math.min(Math.max(at, 0.02), 0.98))

function drag(event: PointerEvent) {
  const grip = event.currentTarget as HTMLElement
  const around = ground.value!.getBoundingClientRect()
  grip.setPointerCapture(event.pointerId)
  const move = (moved: PointerEvent) => keep((moved.clientX - around.left) / around.width)
  grip.addEventListener('pointermove', move)
  grip.addEventListener('pointerup', () => grip.removeEventListener('pointermove', move), { once: true })
}

function step(event: KeyboardEvent) {
  const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (!way) return
  event.preventDefault()
  keep(view.line + way * STEP)
}
</script>

<template>
  <div ref="ground" class="ground">
    <div class="line" :style="{ left: `${(view.form === 'beside' ? 0.5 : view.line) * 100}%` }">
      <span class="name left" data-test="other-name">{{ otherName() }}</span>
      <span class="name right">{{ mine }}</span>
      <span
        v-if="view.form === 'across'"
        class="grip"
        role="slider"
        tabindex="0"
        aria-label="Line between the two results"
        aria-valuemin="0"
        aria-valuemax="100"
        :aria-valuenow="Math.round(view.line * 100)"
        data-test="dividing-line"
        @pointerdown="drag"
        @keydown="step"
      >
        ↔
      </span>
    </div>
  </div>
</template>

<style scoped>
.ground {
  position: absolute;
  inset: 0;
  pointer-events: none;
}
.line {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  margin-left: -1px;
  background: var(--accent);
}
.name {
  position: absolute;
  top: 8px;
  max-width: 150px;
  padding: 1px 8px;
  overflow: hidden;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--sheet);
  font-size: 12.5px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.left {
  right: 9px;
}
.right {
  left: 9px;
}
.grip {
  position: absolute;
  top: 50%;
  left: -15px;
  width: 32px;
  height: 32px;
  display: grid;
  place-items: center;
  border: 2px solid var(--sheet);
  border-radius: 50%;
  background: var(--accent);
  color: var(--on-accent);
  cursor: ew-resize;
  pointer-events: auto;
  touch-action: none;
}
</style>
