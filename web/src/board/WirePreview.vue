<script setup lang="ts">
/** What goes through a wire or comes out of a card: counts, and attributes with their type, range and members. */
import { ElButton, ElTable, ElTableColumn } from 'element-plus'
import { computed, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import { answerTo, KINDS, type Kind, type Spread, type Summary } from '../api/results'
import { useEvaluation } from '../stores/useEvaluation'
import { count, short } from '../shared/numbers'
import Spark from '../shared/Spark.vue'
import { splitFeed } from '../model/document'
import { useGraph } from '../stores/useGraph'

const props = defineProps<{ feed: string }>()
defineEmits<{ close: [] }>()
const graph = useGraph()
const { reports } = useEvaluation()
const summary = shallowRef<Summary | null>(null)
const spreads = shallowRef<Partial<Record<Kind, Spread[]>>>({})
const trouble = shallowRef('')
/** The histograms of an attribute, one for each of its numbers. */
const binsOf = (kind: Kind, name: string) =>
  (spreads.value[kind] ?? [])
    .filter((spread) => spread.name === name && spread.bins?.length)
    .map((spread) => spread.bins!)
const attributes = computed(() =>
  KINDS.flatMap((kind) =>
    (summary.value?.attributes[kind] ?? []).map((entry) => ({ ...entry, kind, range: range(entry, kind) })),
  ),
)

watch(
  () => [props.feed, reports.value[splitFeed(props.feed).from]?.key],
  async () => {
    const id = graph.state.value?.id
    if (!id) return
    const feed = props.feed
    const [look, spread] =
      (await api.looks(id, feed, [{ what: 'summary' }, { what: 'statistics' }], graph.basis()).catch(() => null))
        ?.looks ?? []
    if (feed !== props.feed) return
    summary.value = answerTo('summary', look)
    spreads.value = answerTo('statistics', spread)?.kinds ?? {}
    trouble.value = summary.value ? '' : 'There is no result here yet.'
  },
  { immediate: true },
)

function range(entry: { type: string; low?: number[]; high?: number[]; members?: number }, kind: string): string {
  if (entry.type === 'flag') return `${count(entry.members ?? 0)} of ${count(summary.value?.counts[`${kind}s`] ?? 0)}`
  if (!entry.low || !entry.high) return ''
  const each = entry.low.map((low, n) =>
    low === entry.high![n] ? short(low) : `${short(low)} … ${short(entry.high![n]!)}`,
  )
  return each.join('; ')
}
</script>

<template>
  <aside class="through" data-test="through" aria-label="What goes through">
    <header>
      <b
        >{{ graph.document.value.nodes[splitFeed(feed).from]?.title || splitFeed(feed).from
        }}<template v-if="splitFeed(feed).output"> · {{ splitFeed(feed).output }}</template></b
      ><ElButton text aria-label="Close" @click="$emit('close')">×</ElButton>
    </header>
    <p v-if="trouble" class="faint">{{ trouble }}</p>
    <template v-else-if="summary">
      <p class="mono">
        {{
          Object.entries(summary.counts)
            .filter(([, n]) => n)
            .map(([kind, n]) => `${count(n)} ${kind}`)
            .join(', ') || 'empty'
        }}; {{ count(summary.pieces) }} {{ summary.pieces === 1 ? 'piece' : 'pieces' }}
      </p>
      <ElTable :data="attributes" size="small" :show-header="false">
        <ElTableColumn prop="kind" width="64" class-name="faint" />
        <ElTableColumn v-slot="{ row }" min-width="90"
          ><b>{{ row.name }}</b></ElTableColumn
        >
        <ElTableColumn prop="type" width="70" class-name="faint" />
        <ElTableColumn prop="range" min-width="110" class-name="mono" />
        <ElTableColumn v-slot="{ row }" width="150">
          <span class="sparks"><Spark v-for="(bins, n) in binsOf(row.kind, row.name)" :key="n" :bins="bins" /></span>
        </ElTableColumn>
      </ElTable>
    </template>
  </aside>
</template>

<style scoped>
.sparks {
  display: flex;
  gap: 4px;
  width: 132px;
}
.through {
  position: absolute;
  left: 8px;
  right: 8px;
  bottom: 8px;
  z-index: 10;
  max-height: 45%;
  padding: 5px 10px 8px;
  overflow: auto;
  border: 1px solid var(--strong-line);
  border-radius: 7px;
  background: var(--sheet);
  box-shadow: var(--shade);
  font-size: 13px;
}
header {
  display: flex;
  align-items: center;
  justify-content: space-between;
}
p {
  margin: 2px 0;
}
</style>
