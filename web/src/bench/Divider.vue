<script setup lang="ts">
/** The bar between two panes: dragged, stepped with the arrow keys, and a double click (or Enter) puts the pane away. */
import { ElButton } from 'element-plus'
import type { useSplit } from './useSplit'

defineProps<{ split: ReturnType<typeof useSplit>; label: string; what: string; flat?: boolean; test: string }>()
</script>

<template>
  <div
    class="divider"
    :class="{ flat }"
    role="separator"
    :aria-orientation="flat ? 'horizontal' : 'vertical'"
    :aria-label="label"
    :aria-valuenow="split.size.value"
    :aria-valuemin="0"
    :aria-valuemax="split.most.value"
    tabindex="0"
    :title="`Drag; double-click to put away ${what} or bring it back`"
    @pointerdown="split.drag"
    @keydown="split.step"
    @dblclick="split.toggle()"
  >
    <ElButton
      v-if="split.closed.value"
      class="back"
      :title="`Bring back ${what}`"
      :aria-label="`Bring back ${what}`"
      :data-test="`back-${test}`"
      @pointerdown.stop
      @click.stop="split.toggle()"
    >
      {{ flat ? '▴' : '▸' }} {{ what.replace('the ', '') }}
    </ElButton>
  </div>
</template>

<style scoped>
.divider {
  position: relative;
  background: var(--line);
  cursor: col-resize;
  touch-action: none;
}
.flat {
  cursor: row-resize;
}
.divider:hover,
.divider:focus-visible {
  background: var(--accent);
}
.back {
  position: absolute;
  z-index: 5;
  bottom: 14px;
  left: 6px;
  min-height: 26px;
  padding: 0 10px;
  border: 1px solid var(--line);
  border-radius: 0 6px 6px 0;
  background: var(--sheet);
  font-size: 13px;
  white-space: nowrap;
  cursor: pointer;
}
.flat .back {
  bottom: 6px;
  left: auto;
  right: 92px;
  border-radius: 6px 6px 0 0;
}
</style>
