<script setup lang="ts">
/** How large things are at the depth of what the camera looks at. */
import { computed } from 'vue'
import { scaleBar } from './scaleBar'

const props = defineProps<{ perPixel: number }>()
const MOST = 84
const bar = computed(() => scaleBar(props.perPixel, MOST))
</script>

<template>
  <div class="scale mono" :title="`As long as ${bar.words} where the camera looks at`" data-test="scale-bar">
    {{ bar.words }}<i :style="{ width: `${bar.pixels}px` }" />
  </div>
</template>

<style scoped>
.scale {
  position: absolute;
  right: 12px;
  bottom: 90px;
  display: grid;
  justify-items: center;
  color: var(--faint-ink);
  font-size: 12px;
  pointer-events: none;
  /* It can be read before a dark mesh, too. */
  filter: drop-shadow(0 0 1px var(--backdrop-bottom)) drop-shadow(0 0 3px var(--backdrop-bottom));
}
i {
  height: 6px;
  border: 1.5px solid var(--faint-ink);
  border-top: 0;
}
</style>
