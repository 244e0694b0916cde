<script setup lang="ts">
/** Search in the graph, and the named places in it. */
import { ElInput } from 'element-plus'
import { computed, nextTick, ref, shallowRef } from 'vue'
import { useCatalogue } from '../stores/useCatalogue'
import type { GraphDocument } from '../model/document'
import { searchGraph, type Found } from '../model/search'
import { useGraph } from '../stores/useGraph'

const emit = defineEmits<{ go: [found: { path: string[]; id: string }]; close: [] }>()
const graph = useGraph()
const { operatorOf } = useCatalogue()
const words = ref('')
const at = ref(0)
const input = ref<InstanceType<typeof ElInput>>()
void nextTick(() => input.value?.focus())
/** What published operators hold is searched, too, as soon as it is here. */
const published = shallowRef<Record<string, GraphDocument>>({})
void graph
  .publishedGraphs()
  .then((found) => (published.value = found))
  .catch(() => {})

const jumps = computed(() =>
  Object.entries(graph.document.value.jumps ?? {}).map(([name, id]) => ({
    path: graph.path.value,
    id,
    title: name,
    where: 'jump point',
  })),
)
const found = computed<Found[]>(() =>
  words.value.trim()
    ? searchGraph(graph.root.value, words.value, (node) => operatorOf(node)?.label ?? node.operator, published.value)
    : jumps.value,
)

function key(event: KeyboardEvent) {
  const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
  if (step) at.value = (at.value + step + found.value.length) % Math.max(found.value.length, 1)
  else if (event.key === 'Enter' && found.value[at.value]) emit('go', found.value[at.value]!)
  else if (event.key === 'Escape') emit('close')
  else return
  event.preventDefault()
}
</script>

<template>
  <div class="search" role="dialog" aria-label="Search in the graph">
    <ElInput
      ref="input"
      v-model="words"
      placeholder="Title, parameter or attribute"
      aria-label="Search in the graph"
      data-test="search-graph"
      spellcheck="false"
      @input="at = 0"
      @keydown="key($event as KeyboardEvent)"
    />
    <ul role="listbox">
      <li
        v-for="(entry, number) in found"
        :key="`${entry.path.join('/')}/${entry.id}/${entry.title}`"
        role="option"
        :aria-selected="number === at"
        :class="{ at: number === at }"
        @pointermove="at = number"
        @click="emit('go', entry)"
      >
        <b>{{ entry.title }}</b><span class="faint">{{ [...entry.path, entry.where].join(' › ') }}</span>
      </li>
      <li v-if="!found.length" class="faint">
        {{ words.trim() ? 'No card fits.' : 'Jump points come up here; name one with J on a selected card.' }}
      </li>
    </ul>
  </div>
</template>

<style scoped>
.search {
  position: absolute;
  top: 4px;
  right: 8px;
  z-index: 20;
  width: min(380px, calc(100% - 16px));
  padding: 8px;
  border: 1px solid var(--strong-line);
  border-radius: 7px;
  background: var(--sheet);
  box-shadow: var(--shade);
}
ul {
  max-height: 260px;
  margin: 5px 0 0;
  padding: 0;
  overflow: auto;
  list-style: none;
}
li {
  display: flex;
  gap: 9px;
  padding: 3px 7px;
  border-radius: 4px;
  font-size: 13px;
  cursor: pointer;
}
li b,
li span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.at {
  background: var(--accent-wash);
}
</style>
