<script setup lang="ts">
/** A menu behind a button. Its entries are made when one first comes near it, and kept from then on. */
import { ElDropdown } from 'element-plus'
import { nextTick } from 'vue'
import { useNear } from './useNear'

defineProps<{ placement?: 'bottom' | 'bottom-end' | 'right-start' }>()
/** What the chosen entry stands for: whoever listens knows what its entries hold. */
const emit = defineEmits<{ command: [command: never] }>()
const { wanted, near } = useNear()

let chosen: { command: never } | null = null

/** A menu that closes gives the focus back to its button: what was chosen begins then, so that its dialog keeps it. */
async function opened(now: boolean) {
  const one = chosen
  chosen = null
  if (now || !one) return
  for (let flushes = 0; flushes < 2; flushes++) await nextTick()
  emit('command', one.command)
}
</script>

<template>
  <ElDropdown
    :persistent="wanted"
    :placement="placement ?? 'bottom'"
    trigger="click"
    v-on="near"
    @command="chosen = { command: $event as never }"
    @visible-change="opened"
  >
    <slot />
    <template #dropdown><slot name="entries" /></template>
  </ElDropdown>
</template>
