<script setup lang="ts">
/** A box or a lasso being drawn over the picture. */
import { computed, ref } from 'vue'
import { boxOf, type Spot } from './within'

const props = defineProps<{ tool: 'box' | 'lasso' }>()
const emit = defineEmits<{ done: [outline: Spot[], add: boolean] }>()
const pad = ref<SVGSVGElement>()
const spots = ref<Spot[]>([])
const outline = computed(() =>
  props.tool === 'lasso' || spots.value.length < 2 ? spots.value : boxOf(spots.value[0]!, spots.value.at(-1)!),
)

function spot(event: PointerEvent): Spot {
  const area = pad.value!.getBoundingClientRect()
  return [event.clientX - area.left, event.clientY - area.top]
}

function begin(event: PointerEvent) {
  if (event.button !== 0) return
  pad.value!.setPointerCapture(event.pointerId)
  spots.value = [spot(event)]
}

function move(event: PointerEvent) {
  if (spots.value.length) spots.value = [...spots.value, spot(event)]
}

function end(event: PointerEvent) {
  const drawn = outline.value
  spots.value = []
  if (drawn.length < 3) return
  const area = pad.value!.getBoundingClientRect()
  emit(
    'done',
    drawn.map(([x, y]) => [(x / area.width) * 2 - 1, 1 - (y / area.height) * 2] as Spot),
    event.shiftKey,
  )
}
</script>

<template>
  <svg
    ref="pad"
    class="pad"
    data-test="pad"
    @pointerdown="begin"
    @pointermove="move"
    @pointerup="end"
    @pointercancel="spots = []"
  >
    <polygon v-if="outline.length > 1" :points="outline.map((one) => one.join()).join(' ')" />
  </svg>
</template>

<style scoped>
.pad {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  cursor: crosshair;
  touch-action: none;
}
polygon {
  fill: color-mix(in srgb, var(--accent) 14%, transparent);
  stroke: var(--accent);
  stroke-dasharray: 5 3;
}
</style>
