<script setup lang="ts">
/** What the cards of this graph take, the dearest first, and what each time goes into. */
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
    <details v-for="entry in ranked" :key="entry.id" :data-test="`profile-${entry.id}`">
      <summary>
        <span class="share" :style="{ width: `${(entry.seconds / (ranked[0]!.seconds || 1)) * 100}%` }" />
        <span class="name" :title="titleOf(entry.id)">{{ titleOf(entry.id) }}</span>
        <span class="mono">{{ duration(entry.seconds) }}</span>
      </summary>
      <table v-if="partsOfTime(entry.parts, entry.seconds).length">
        <tbody>
          <tr v-for="part in partsOfTime(entry.parts, entry.seconds)" :key="part.name">
            <td>{{ part.name }}</td>
            <td class="mono">{{ duration(part.seconds) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-else class="faint">Too little to be told apart.</p>
      <button class="plain boxed" @click="look(entry.id)">look at it</button>
    </details>
    <details v-if="asked >= 0.001" data-test="profile-asked">
      <summary>
        <span class="share" :style="{ width: `${Math.min(asked / (ranked[0]!.seconds || asked), 1) * 100}%` }" />
        <span class="name">for view and ledger</span>
        <span class="mono">{{ duration(asked) }}</span>
      </summary>
      <table>
        <tbody>
          <tr v-for="part in partsOfTime(looking, asked)" :key="part.name">
            <td>{{ part.name }}</td>
            <td class="mono">{{ duration(part.seconds) }}</td>
          </tr>
        </tbody>
      </table>
    </details>
  </template>
</template>

<style scoped>
details {
  border-top: 1px solid var(--line);
}
summary {
  position: relative;
  display: flex;
  justify-content: space-between;
  gap: 8px;
  min-height: 26px;
  align-items: center;
  cursor: pointer;
  list-style: none;
}
.share {
  position: absolute;
  inset: 3px auto 3px 0;
  border-radius: 3px;
  background: color-mix(in srgb, var(--accent) 22%, transparent);
}
.name {
  position: relative;
  padding-left: 5px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.mono {
  position: relative;
  flex: none;
}
table {
  width: 100%;
  margin: 2px 0 5px;
  border-collapse: collapse;
}
td {
  padding: 1px 5px;
}
td + td {
  text-align: right;
}
</style>
