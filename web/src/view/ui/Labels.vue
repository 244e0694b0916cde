<script setup lang="ts">
/** Numbers and values written at elements: those nearest to the camera first, as many as can be read. */
import * as THREE from 'three'
import { ref, watch } from 'vue'
import type { Numbers } from '../../api/buffers'
import { short } from '../../shared/numbers'

const props = defineProps<{
  middles: Float32Array
  numbers: Uint32Array | null
  values: Numbers | null
  size: number
  camera: THREE.PerspectiveCamera | null
  moment: number
  width: number
  height: number
}>()
const MOST = 260
const SPACE = 26
const labels = ref<{ key: number; x: number; y: number; text: string }[]>([])

function text(drawn: number): string {
  const i = props.numbers?.[drawn] ?? drawn
  if (!props.values) return String(i)
  return Array.from({ length: props.size }, (_, c) => short(props.values![i * props.size + c]!)).join(' ')
}

watch(
  () => [props.middles, props.values, props.moment, props.width, props.height],
  () => {
    const camera = props.camera
    if (!camera) return
    const matrix = new THREE.Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse)
    const at = new THREE.Vector3()
    const seen: { key: number; x: number; y: number; z: number }[] = []
    for (let i = 0; i < props.middles.length / 3; i++) {
      at.fromArray(props.middles, i * 3).applyMatrix4(matrix)
      if (Math.abs(at.x) < 1 && Math.abs(at.y) < 1 && Math.abs(at.z) < 1)
        seen.push({ key: i, x: ((at.x + 1) / 2) * props.width, y: ((1 - at.y) / 2) * props.height, z: at.z })
    }
    seen.sort((a, b) => a.z - b.z)
    const taken = new Set<string>()
    const shown: typeof labels.value = []
    for (const { key, x, y } of seen) {
      const cell = `${Math.round(x / (SPACE * 1.6))}/${Math.round(y / (SPACE * 0.7))}`
      if (taken.has(cell)) continue
      taken.add(cell)
      shown.push({ key, x, y, text: text(key) })
      if (shown.length >= MOST) break
    }
    labels.value = shown
  },
  { immediate: true },
)
</script>

<template>
  <svg class="labels" aria-hidden="true" data-test="labels">
    <text v-for="label in labels" :key="label.key" :x="label.x" :y="label.y">{{ label.text }}</text>
  </svg>
</template>

<style scoped>
.labels {
  position: absolute;
  inset: 0;
  height: 100%;
  pointer-events: none;
}
text {
  fill: var(--ink);
  stroke: var(--sheet);
  stroke-width: 3px;
  paint-order: stroke;
  font: 600 12px var(--mono);
  text-anchor: middle;
  dominant-baseline: middle;
}
</style>
