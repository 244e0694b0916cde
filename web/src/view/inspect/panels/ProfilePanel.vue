<script setup lang="ts">
/** What the cards of this graph take, the dearest first, and what each time goes into. */
import { ElButton, ElCollapse, ElCollapseItem } from 'element-plus'
import { computed } from 'vue'
import { partsOfTime, rankOf } from '../../../model/timing'
import { count, duration } from '../../../shared/numbers'
import { useEvaluation } from '../../../stores/useEvaluation'
import { useGraph } from '../../../stores/useGraph'
import { useTitles } from '../useTitles'

const graph = useGraph()
const { reports, looking } = useEvaluation()
const titleOf = useTitles()
const ranked = computed(() => rankOf(reports.value, Object.keys(graph.document.value.nodes)))
/** Answers that the view asked for: each look counts once, what is inside of one is told beside it. */
const asked = computed(() =>
  Object.entries(looking.value).reduce((sum, [name, part]) => sum + (name.startsWith('look ') ? part : 0), 0),
)
const total = computed(() => ranked.value.reduce((sum, entry) => sum + entry.seconds, 0))
const kept = computed(() => ranked.value.filter((entry) => entry.cached).length)

const most = computed(() => ranked.value[0]?.seconds || asked.value || 1)
/** The cards, and last what view and ledger asked for. */
const entries = computed(() => [
  ...ranked.value.map((entry) => ({
    id: entry.id,
    title: titleOf(entry.id),
    seconds: entry.seconds,
    parts: partsOfTime(entry.parts, entry.seconds),
  })),
  ...(asked.value >= 0.001
    ? [{ id: '', title: 'for view and ledger', seconds: asked.value, parts: partsOfTime(looking.value, asked.value) }]
    : []),
])

function look(id: string) {
  graph.edit(`look at ${titleOf(id)}`, (next) => (next.looking_at = id))
}
</script>

<template>
  <p v-if="!ranked.length" class="faint">Nothing is evaluated yet.</p>
  <template v-else>
    <p data-test="profile-total">
      <b class="mono">{{ duration(total) }}</b> for {{ count(ranked.length)
      }}{{ ranked.length === 1 ? ' card' : ' cards'
      }}<span v-if="kept" class="faint"
        >; {{ count(kept) }} of them taken from the cache, with the time they took to make</span
      >
    </p>
    <ElCollapse>
      <ElCollapseItem
        v-for="entry in entries"
        :key="entry.id"
        :name="entry.id"
        :data-test="entry.id ? `profile-${entry.id}` : 'profile-asked'"
      >
        <template #title>
          <span class="share" :style="{ width: `${Math.min(entry.seconds / most, 1) * 100}%` }" />
          <span class="name" :title="entry.title">{{ entry.title }}</span>
          <span class="mono">{{ duration(entry.seconds) }}</span>
        </template>
        <dl v-if="entry.parts.length">
          <template v-for="part in entry.parts" :key="part.name">
            <dt>{{ part.name }}</dt>
            <dd class="mono">{{ duration(part.seconds) }}</dd>
          </template>
        </dl>
        <p v-else class="faint">Too little to be told apart.</p>
        <ElButton v-if="entry.id" @click="look(entry.id)">look at it</ElButton>
      </ElCollapseItem>
    </ElCollapse>
  </template>
</template>

<style scoped>
.share {
  position: absolute;
  inset: 3px auto 3px 0;
  border-radius: 3px;
  background: color-mix(in srgb, var(--accent) 22%, transparent);
}
.name {
  position: relative;
  flex: 1;
  text-align: left;
  padding-left: 5px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.mono {
  position: relative;
  flex: none;
}
dl {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 10px;
  margin: 2px 5px 5px;
}
dd {
  margin: 0;
}
</style>
