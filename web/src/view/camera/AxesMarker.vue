<script setup lang="ts">
/** Which way x, y and z point, as seen by the camera. */
import * as THREE from 'three'
import { computed } from 'vue'

const props = defineProps<{ turn: number[] }>()
const SIZE = 26
const arms = computed(() => {
  const look = new THREE.Quaternion(...(props.turn as [number, number, number, number])).invert()
  return (['x', 'y', 'z'] as const)
    .map((name, number) => {
      const way = new THREE.Vector3().setComponent(number, 1).applyQuaternion(look)
      return { name, x: way.x * SIZE, y: -way.y * SIZE, depth: way.z }
    })
    .sort((a, b) => a.depth - b.depth)
})
</script>

<template>
  <svg class="axes" viewBox="-40 -40 80 80" role="img" aria-label="Directions of x, y and z">
    <g v-for="arm in arms" :key="arm.name" :class="arm.name">
      <line x1="0" y1="0" :x2="arm.x" :y2="arm.y" />
      <circle :cx="arm.x" :cy="arm.y" r="8.5" />
      <text :x="arm.x" :y="arm.y + 4">{{ arm.name }}</text>
    </g>
  </svg>
</template>

<style scoped>
.axes {
  position: absolute;
  right: 8px;
  bottom: 6px;
  width: 80px;
  height: 80px;
  pointer-events: none;
}
line {
  stroke: var(--faint-ink);
  stroke-width: 2;
}
circle {
  fill: var(--sheet);
  stroke: var(--faint-ink);
  stroke-width: 1.5;
}
.y circle {
  stroke: var(--ink);
  stroke-width: 2.5;
}
text {
  fill: var(--ink);
  font: 600 12px var(--mono);
  text-anchor: middle;
}
</style>
