<script setup lang="ts">
/** Element kinds told by shape: dot, stroke, angle, tile, bow, pair of tiles, frame. */
defineProps<{ kind: string }>()
</script>

<template>
  <svg class="glyph" viewBox="0 0 16 16" aria-hidden="true">
    <circle v-if="kind === 'point'" cx="8" cy="8" r="3.6" fill="currentColor" />
    <path v-else-if="kind === 'edge'" d="M3 13 13 3" />
    <path v-else-if="kind === 'corner'" d="M3 13 8 3l5 10" />
    <path v-else-if="kind === 'face'" d="M3.2 5.2 11 2.8l2 8-7.8 2.4z" fill="currentColor" fill-opacity=".35" />
    <path v-else-if="kind === 'curve'" d="M2 12c3-12 9 4 12-9" />
    <path v-else-if="kind === 'instance'" d="M2.5 8.5h5v5h-5zM8.5 2.5h5v5h-5z" />
    <path v-else d="M3 3h10v10H3zM6 6h4v4H6z" />
  </svg>
</template>

<style scoped>
.glyph {
  width: 15px;
  height: 15px;
  flex: none;
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.8;
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>
