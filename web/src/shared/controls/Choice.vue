<script setup lang="ts">
/** One of several, in groups or not: with a word on each, a search field where they are many, and nothing cut off. */
import { ElOptionGroup, ElSelect } from 'element-plus'
import { computed, ref } from 'vue'
import ChoiceEntry from './ChoiceEntry.vue'
import type { Entry, Group } from './choices'
import { useNear } from './useNear'

const props = defineProps<{
  /** What is chosen; left out where choosing does something and nothing stays chosen. */
  value?: string
  entries?: readonly Entry[]
  groups?: readonly Group[]
  label: string
  /** What stands there while nothing is chosen. */
  hint?: string
  off?: boolean
}>()
const emit = defineEmits<{ choose: [value: string]; open: []; close: [] }>()
/** Entries from which on one searches rather than reads. */
const MANY = 12
const groups = computed<Group[]>(() => [
  ...(props.entries ? [{ title: '', entries: [...props.entries] }] : []),
  ...(props.groups ?? []),
])
const all = computed(() => groups.value.flatMap((group) => group.entries))
const chosen = computed(() => all.value.find((entry) => entry.value === props.value))
const open = ref(false)
const { wanted, near } = useNear()
function opened(now: boolean) {
  open.value = now
  if (now) emit('open')
  else emit('close')
}

/** Escape closes the list; with none open, what is around may close: the control would keep the key to itself. */
function passOn(event: KeyboardEvent) {
  if (open.value) return
  const around = (event.currentTarget as HTMLElement).parentElement
  event.stopPropagation()
  around?.dispatchEvent(new KeyboardEvent('keydown', { key: event.key, code: event.code, bubbles: true }))
}
const tooltip = computed(() => [chosen.value?.label, chosen.value?.help].filter(Boolean).join(' – ') || undefined)
</script>

<template>
  <ElSelect
    class="choice"
    :model-value="value"
    :aria-label="label"
    :data-chosen="value"
    :placeholder="hint ?? ''"
    :disabled="off"
    :title="tooltip"
    :empty-values="[null, undefined]"
    :filterable="all.length > MANY"
    :persistent="wanted"
    :fit-input-width="false"
    no-match-text="none of that name"
    no-data-text="there is nothing to choose"
    popper-class="choices"
    @change="emit('choose', $event as string)"
    @keydown.esc.capture="passOn"
    @visible-change="opened"
    v-on="near"
  >
    <template #label>{{ chosen?.label ?? value }}</template>
    <template v-for="group in groups" :key="group.title">
      <ElOptionGroup v-if="group.title" :label="group.title">
        <ChoiceEntry v-for="entry in group.entries" :key="entry.value" :entry="entry" />
      </ElOptionGroup>
      <template v-else><ChoiceEntry v-for="entry in group.entries" :key="entry.value" :entry="entry" /></template>
    </template>
  </ElSelect>
</template>

<style scoped>
.choice {
  min-width: 64px;
}
</style>
