<script setup lang="ts">
/** Where the graph is: cards top to bottom, wires between them. */
import { ElButton } from 'element-plus'
import '@vue-flow/core/dist/style.css'
import { type NodeChange, useVueFlow, VueFlow } from '@vue-flow/core'
import { MiniMap } from '@vue-flow/minimap'
import '@vue-flow/minimap/dist/style.css'
import { computed, nextTick, provide, ref, watch } from 'vue'
import { followersOf } from '../model/parameterLinks'
import { tiesKey } from '../stores/injectionKeys'
import { useGraph } from '../stores/useGraph'
import { useSelectedCards } from '../stores/useSelectedCards'
import Breadcrumbs from './Breadcrumbs.vue'
import Card from './card/Card.vue'
import Frames from './Frames.vue'
import SearchBox from './SearchBox.vue'
import { FAR, LEAST_ZOOM, useBoardViewport } from './useBoardViewport'
import { useCardSets } from './useCardSets'
import { useWires } from './useWires'
import WirePreview from './WirePreview.vue'

const graph = useGraph()
const flow = useVueFlow('board')
const searching = ref(false)
/** From still farther off than `FAR`, cards are marks without titles. */
const DOTS = 0.14
/** Cards from which on an overview helps, while none is open and needs the room. */
const MANY = 8
const zoom = computed(() => flow.viewport.value.zoom)
const followers = computed(() => followersOf(graph.document.value))
provide(tiesKey, followers)
const chosenCards = ref<ReadonlySet<string>>(new Set())
const { cards } = useSelectedCards()
const selected = computed(() => Object.keys(graph.document.value.nodes).filter((id) => chosenCards.value.has(id)))

watch(selected, (now) => (cards.value = now))

const { sizes, places, fit, showAll, follow, centre } = useBoardViewport(chosenCards)
const { edges, chosenWire, asked, canConnect, onConnect, onDragStop, pickWire, cutWire } = useWires()
const { foldChosen, frameChosen, nameJump, copy, pasteText } = useCardSets({ selected, select, follow })
const nodes = computed(() =>
  Object.keys(graph.document.value.nodes).map((id) => ({
    id,
    type: 'card',
    position: places.value[id]!,
    data: {},
    deletable: false,
    selected: chosenCards.value.has(id),
  })),
)
function select(ids: string[]) {
  chosenCards.value = new Set(ids)
}

/** Clicks and box selections on the board arrive as changes. */
flow.onNodesChange((changes) => {
  const next = new Set(chosenCards.value)
  for (const change of (Array.isArray(changes) ? changes : [changes]) as NodeChange[]) {
    if (change.type !== 'select') continue
    if (change.selected) next.add(change.id)
    else next.delete(change.id)
  }
  if (next.size !== chosenCards.value.size || [...next].some((id) => !chosenCards.value.has(id)))
    chosenCards.value = next
})

/** Move the board to a card, wherever it is. */
async function go({ path, id }: { path: string[]; id: string }) {
  searching.value = false
  if (path.join() !== graph.path.value.join()) {
    graph.leave(0)
    for (const step of path) await graph.enter(step)
    await nextTick()
  }
  select([id])
  await nextTick()
  await centre(id)
}

/** Give all cards back to the automatic layout. */
function tidy() {
  graph.edit('tidy the board', (next) => {
    for (const node of Object.values(next.nodes)) if (node.place) node.place = null
  })
  setTimeout(fit, 120)
}

defineExpose({
  selected,
  select,
  cutWire,
  fit,
  showAll,
  follow,
  tidy,
  foldChosen,
  frameChosen,
  nameJump,
  copy,
  pasteText,
  search: () => (searching.value = true),
  ask: () => (asked.value = asked.value ? '' : (selected.value[0] ?? '')),
})
</script>

<template>
  <section class="board" :class="{ far: zoom < FAR, dots: zoom < DOTS }" :style="{ '--zoom': zoom }" aria-label="Board">
    <div class="bar">
      <b>Board</b>
      <span class="faint">{{ nodes.length }} {{ nodes.length === 1 ? 'card' : 'cards' }}</span>
      <ElButton v-if="selected.length > 1" data-test="fold" title="Make one card of these (G)" @click="foldChosen">
        Fold {{ selected.length }}
      </ElButton>
      <ElButton v-if="selected.length > 1" text data-test="frame" title="Put a frame around these" @click="frameChosen">
        Frame
      </ElButton>
      <ElButton v-if="chosenWire" class="cut" data-test="cut" @click="cutWire">Cut this wire</ElButton>
      <ElButton text data-test="search" title="Search in the graph (Ctrl+F)" @click="searching = !searching">
        Search
      </ElButton>
      <ElButton text title="Show all cards" data-test="all-cards" @click="showAll">All cards</ElButton>
      <ElButton text title="Lay all cards out again, those placed by hand too" @click="tidy">Tidy</ElButton>
    </div>
    <Breadcrumbs />
    <div class="pane">
      <WirePreview v-if="asked" :feed="asked" @close="asked = ''" />
      <SearchBox v-if="searching" @go="go" @close="searching = false" />
      <VueFlow
        id="board"
        :nodes="nodes"
        :edges="edges"
        :min-zoom="LEAST_ZOOM"
        :max-zoom="1.6"
        :delete-key-code="null"
        :is-valid-connection="canConnect"
        :connection-radius="34"
        :select-nodes-on-drag="false"
        :zoom-on-double-click="false"
        elevate-nodes-on-select
        @connect="onConnect"
        @node-drag-stop="onDragStop"
        @edge-click="pickWire"
        @pane-click="chosenWire = asked = ''"
      >
        <template #node-card="card"><Card :id="card.id" :selected="card.selected" /></template>
        <Frames :places="places" :sizes="sizes" @select="select" />
        <MiniMap
          v-if="nodes.length > MANY && zoom >= FAR && !selected.length"
          pannable
          zoomable
          :width="132"
          :height="96"
          aria-label="Overview of the board"
          data-test="overview"
        />
      </VueFlow>
    </div>
  </section>
</template>

<style scoped>
.board {
  display: flex;
  flex-direction: column;
  min-height: 0;
  background: radial-gradient(circle at 1px 1px, color-mix(in srgb, var(--ink) 9%, transparent) 1px, transparent 1.5px)
    0 0 / 22px 22px;
}
.pane {
  position: relative;
  flex: 1;
  min-height: 0;
}
.bar {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 2px 10px 2px 14px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
  font-size: 13px;
}
.bar .faint {
  flex: 1;
}
.bar .el-button {
  padding: 0 6px;
}
.board :deep(.vue-flow__edge-path) {
  stroke: var(--wire);
  stroke-width: 3;
}
.board.far :deep(.vue-flow__edge-path) {
  stroke-width: calc(1.5px / var(--zoom));
}
.board :deep(.vue-flow__minimap) {
  margin: 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--sheet);
}
.board :deep(.vue-flow__minimap-node) {
  fill: var(--wire);
}
.board :deep(.vue-flow__minimap-node.selected) {
  fill: var(--accent);
}
.board :deep(.vue-flow__minimap-mask) {
  fill: color-mix(in srgb, var(--backdrop-bottom) 55%, transparent);
}
.board :deep(.vue-flow__edge.value .vue-flow__edge-path) {
  stroke-width: 1.5;
}
.board :deep(.vue-flow__handle.value) {
  width: 9px;
  height: 9px;
  border-width: 1.5px;
  border-radius: 50%;
}
.board :deep(.vue-flow__edge.chosen .vue-flow__edge-path),
.board :deep(.vue-flow__edge:hover .vue-flow__edge-path) {
  stroke: var(--accent);
}
.board :deep(.vue-flow__connection-path) {
  stroke: var(--accent);
  stroke-width: 3;
}
.board :deep(.vue-flow__handle) {
  width: 15px;
  height: 9px;
  border: 2px solid var(--wire);
  border-radius: 3px;
  background: var(--sheet);
}
.board :deep(.vue-flow__handle.optional) {
  border-style: dashed;
}
.board :deep(.vue-flow__handle.many) {
  width: 30px;
}
.board :deep(.vue-flow__handle:hover),
.board :deep(.vue-flow__handle.connecting) {
  border-color: var(--accent);
  background: var(--accent-wash);
}
</style>
