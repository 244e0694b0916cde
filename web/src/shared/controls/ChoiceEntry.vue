<script setup lang="ts">
/** One entry of a choice, with a word on it. */
import { ElOption } from 'element-plus'
import type { Entry } from './choices'

defineProps<{ entry: Entry }>()
</script>

<template>
  <ElOption :value="entry.value" :label="entry.label" :disabled="entry.off" :data-value="entry.value">
    <span>{{ entry.label }}</span> <span v-if="entry.help" class="help">{{ entry.help }}</span>
  </ElOption>
</template>

<style scoped>
.help {
  margin-left: 4px;
  color: var(--faint-ink);
  font-weight: 400;
}
</style>
