<script setup lang="ts">
/** How a curve or gradient goes on from the chosen point. */
import { ElSegmented } from 'element-plus'
import { STEPS, type Step } from '../model/values/profile'

defineProps<{ value: Step; label: string }>()
const emit = defineEmits<{ commit: [value: Step] }>()
</script>

<template>
  <div class="step">
    <span>goes on</span>
    <ElSegmented
      size="small"
      :model-value="value"
      :options="[...STEPS]"
      :aria-label="`${label}: goes on from the chosen point`"
      data-test="step-choice"
      @change="emit('commit', $event as Step)"
    />
  </div>
</template>

<style scoped>
.step {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 6px;
  margin-top: 4px;
  color: var(--faint-ink);
  font-size: 12px;
  white-space: nowrap;
}
.step :deep(.el-segmented) {
  font-size: 12px;
}
.step :deep(.el-segmented__item) {
  padding: 0 6px;
}
</style>
