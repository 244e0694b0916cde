<script setup lang="ts">
/** What is said over the picture: what is shown instead, what went wrong, how far an evaluation is, and what to do where nothing is. */
import { ElButton, ElProgress } from 'element-plus'
import { computed } from 'vue'
import { useEvaluation } from '../../stores/useEvaluation'
import { splitFeed } from '../../model/document'
import { useGraph } from '../../stores/useGraph'
import { useKeys } from '../../stores/useKeys'

const props = defineProps<{ trouble: string; name: (id: string | null | undefined) => string }>()
const { shownNode, reports, stale, running, slow, progress, failure, stop } = useEvaluation()
const { document: graph } = useGraph()
const { keyOf } = useKeys()

const banner = computed(() => {
  const wanted = graph.value.looking_at
  if (wanted && stale.value) return `‘${props.name(wanted)}’ has an error; its last good result is shown.`
  if (
    !wanted ||
    !shownNode.value ||
    shownNode.value === wanted ||
    reports.value[splitFeed(wanted).from]?.state === 'done'
  )
    return ''
  return `‘${props.name(wanted)}’ has no result, so ‘${props.name(shownNode.value)}’ is shown.`
})
const isEmpty = computed(() => Object.keys(graph.value.nodes).length === 0)
const noResult = computed(
  () => !isEmpty.value && !shownNode.value && !running.value && Object.keys(reports.value).length > 0,
)
</script>

<template>
  <div v-if="banner" class="banner warn" role="status" data-test="banner">{{ banner }}</div>
  <div v-if="failure || trouble" class="banner bad" role="alert">{{ failure || trouble }}</div>
  <div v-if="running && slow" class="banner busy" role="status" data-test="progress">
    <ElProgress
      class="bar"
      :percentage="(100 * progress.done) / (progress.total || 1)"
      :show-text="false"
      aria-label="How far the evaluation is"
    />
    {{ progress.node ? `Evaluating ‘${name(progress.node)}’` : 'Waiting' }} ({{ progress.done + 1 }} of
    {{ progress.total || 1 }})
    <ElButton data-test="stop" @click="stop">Stop</ElButton>
  </div>
  <div v-if="isEmpty" class="hint">
    <p>Nothing here yet.</p>
    <p>
      Press <kbd>{{ keyOf('Find') }}</kbd> to find a shape to start from, or drop a mesh, scan or drawing anywhere on
      the page.
    </p>
    <slot />
  </div>
  <div v-else-if="noResult" class="hint"><p>There is no result to show. The marked card says why.</p></div>
</template>

<style scoped>
.banner {
  position: relative;
  display: flex;
  align-items: center;
  gap: 10px;
  width: fit-content;
  max-width: calc(100% - 20px);
  margin: 8px auto 0;
  padding: 4px 12px;
  border: 1px solid currentcolor;
  border-radius: 6px;
  font-size: 13px;
}
.warn {
  color: var(--warn);
  background: var(--warn-wash);
}
.bad {
  color: var(--bad);
  background: var(--bad-wash);
}
.busy {
  background: var(--raised);
  border-color: var(--line);
}
.bar {
  width: 90px;
}
.hint:has(.gallery) {
  top: 40px;
  bottom: 8px;
  overflow: auto;
}
.hint {
  position: absolute;
  inset: 30% 24px auto;
  text-align: center;
  color: var(--faint-ink);
  font-size: 15px;
}
</style>
