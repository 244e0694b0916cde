<script setup lang="ts">
/** A very small histogram. */
import { computed } from 'vue'

const props = defineProps<{ bins: number[] }>()
/** Square roots, so that rare values are seen beside common ones. */
const bars = computed(() => {
  const most = Math.max(...props.bins, 1)
  return props.bins.map((held, n) => ({ n, height: held ? Math.max(Math.sqrt(held / most), 0.08) : 0 }))
})
</script>

<template>
  <svg class="spark" :viewBox="`0 0 ${bins.length} 1`" preserveAspectRatio="none" aria-hidden="true">
    <rect v-for="bar in bars" :key="bar.n" :x="bar.n + 0.08" :y="1 - bar.height" width="0.84" :height="bar.height" />
  </svg>
</template>

<style scoped>
.spark {
  display: block;
  width: 100%;
  height: 18px;
}
rect {
  fill: var(--wire);
}
</style>
