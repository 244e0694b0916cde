<script setup lang="ts">
/** A menu behind a button. Its entries are made when one first comes near it, and kept from then on. */
import { ElDropdown } from 'element-plus'
import { useNear } from './useNear'

defineProps<{ placement?: 'bottom' | 'bottom-end' | 'right-start' }>()
/** What the chosen entry stands for: whoever listens knows what its entries hold. */
defineEmits<{ command: [command: never] }>()
const { wanted, near } = useNear()
</script>

<template>
  <ElDropdown
    :persistent="wanted"
    :placement="placement ?? 'bottom'"
    trigger="click"
    v-on="near"
    @command="$emit('command', $event as never)"
  >
    <slot />
    <template #dropdown><slot name="entries" /></template>
  </ElDropdown>
</template>
