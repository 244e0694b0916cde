<script setup lang="ts">
/** The canvas that one small picture is drawn into, as long as it is in sight. */
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Proofs } from './proofs'

const props = defineProps<{ proofs: Proofs; of: string }>()
const canvas = ref<HTMLCanvasElement>()
onMounted(() => props.proofs.hold(canvas.value!, props.of))
watch(
  () => props.of,
  (key) => props.proofs.hold(canvas.value!, key),
)
onBeforeUnmount(() => props.proofs.letGo(canvas.value!))
</script>

<template>
  <canvas ref="canvas" />
</template>

<style scoped>
canvas {
  flex: 1;
  width: 100%;
  min-height: 0;
  touch-action: none;
}
</style>
