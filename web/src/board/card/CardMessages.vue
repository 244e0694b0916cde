<script setup lang="ts">
/** What a card has to say: why it failed or waits, its warnings, and (open) its notes. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { useGraph } from '../../stores/useGraph'
import type { CardState } from './useCard'

const props = defineProps<{ card: CardState; open?: boolean }>()
const { id, report, message, failedAt, visible, warnings, notes, inSight, isValue } = props.card
const graph = useGraph()
const titleOf = (node: string | null | undefined) => (node && graph.document.value.nodes[node]?.title) || node || ''

/** Whether the message stands at the field that it is about. */
const saidAtField = computed(() => visible.value.some((parameter) => parameter.name === failedAt.value))
/** The way to the card inside that failed. */
const failedInside = computed(() => (report.value?.error?.code === 'nested' ? report.value.error.cause : null))
async function goInside() {
  const steps = failedInside.value!.split('/')
  await graph.enter(id)
  for (const step of steps.slice(0, -1)) await graph.enter(step)
}
</script>

<template>
  <p v-if="message && !(open && saidAtField)" class="message bad" role="alert" data-test="card-error">
    {{ message }}
    <ElButton v-if="failedInside" class="small nodrag" text data-test="go-inside" @click.stop="goInside">
      go there
    </ElButton>
  </p>
  <p v-else-if="report?.state === 'waiting'" class="message faint">
    waits for ‘{{ titleOf(report.error?.cause) }}’, which has no result
  </p>
  <p v-else-if="report?.state === 'idle'" class="message faint" data-test="card-idle">
    not chosen further on, so not evaluated; look at it to see it
  </p>
  <p v-for="note in warnings" :key="note.text" class="message warn" data-test="card-warning">{{ note.text }}</p>
  <p v-if="inSight && !open" class="message faint short" :title="inSight" data-test="card-note">{{ inSight }}</p>
  <template v-if="open">
    <pre v-if="isValue" class="mono written">{{ notes[0]?.text }}</pre>
    <template v-else>
      <p v-for="note in notes" :key="note.text" class="message faint">{{ note.text }}</p>
    </template>
  </template>
</template>

<style scoped>
.message {
  margin: 2px 0;
  font-size: 12.5px;
  overflow-wrap: anywhere;
}
.short {
  display: -webkit-box;
  overflow: hidden;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
}
.bad {
  color: var(--bad);
}
.warn {
  padding: 1px 6px;
  border-radius: 4px;
  color: var(--warn);
  background: var(--warn-wash);
}
.written {
  margin: 2px 0;
  padding: 4px 7px;
  overflow: auto;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--sheet);
  font-size: 12px;
}
.small {
  min-height: 22px;
  padding: 0 5px;
  font-size: 12px;
  color: var(--faint-ink);
}
</style>
