<script setup lang="ts">
/** The graph as cards, and wires between them. */
import '@vue-flow/core/dist/style.css'
import { type NodeChange, useVueFlow, VueFlow } from '@vue-flow/core'
import { MiniMap } from '@vue-flow/minimap'
import '@vue-flow/minimap/dist/style.css'
import { computed, provide, shallowRef, toRef, watch } from 'vue'
import { CARD, inLine, type Way } from '../../model/layout'
import { Boxes } from '../../model/routing/boxes'
import { wayKey, wireEndKey } from '../../stores/injectionKeys'
import { useGraph } from '../../stores/useGraph'
import Card from '../card/Card.vue'
import Frames from './Frames.vue'
import { FAR, LEAST_ZOOM, useBoardViewport } from './useBoardViewport'
import { useWires } from './useWires'
import Wire from './Wire.vue'
import WireEnd from './WireEnd.vue'

const props = defineProps<{ chosen: ReadonlySet<string>; way: Way }>()
const emit = defineEmits<{ select: [ids: string[]] }>()
/** The wire that is chosen, and the feed of which it is told what goes through. */
const chosenWire = defineModel<string>('wire', { required: true })
const asked = defineModel<string>('asked', { required: true })
const graph = useGraph()
const way = toRef(props, 'way')
provide(wayKey, way)
provide(wireEndKey, WireEnd)
const flow = useVueFlow('board')
/** From still farther off than `FAR`, cards are marks without titles. */
const DOTS = 0.14
/** Cards from which on an overview helps, while none is open and needs the room. */
const MANY = 8
const zoom = computed(() => flow.viewport.value.zoom)

const { sizes, places, fit, showAll, follow, centre } = useBoardViewport(toRef(props, 'chosen'), way)
const { edges, canConnect, onConnect, onDragStop, pickWire, cutWire } = useWires(chosenWire, asked)
const nodes = computed(() =>
  Object.keys(graph.document.value.nodes).map((id) => ({
    id,
    type: 'card',
    position: places.value[id]!,
    data: {},
    deletable: false,
    selected: props.chosen.has(id),
  })),
)

/** What wires keep clear of: cards, but those that are moved right now. */
const held = shallowRef<ReadonlySet<string>>(new Set())
const boxes = computed(
  () =>
    new Boxes(
      Object.entries(places.value).flatMap(([id, place]) =>
        held.value.has(id) ? [] : [{ ...place, ...(sizes.value[id] ?? CARD) }],
      ),
    ),
)
flow.onNodeDragStart(({ nodes: moved }) => {
  held.value = new Set(moved.map((one) => one.id))
})
flow.onNodeDragStop(() => {
  held.value = new Set()
})

/** Clicks and box selections arrive as changes. */
flow.onNodesChange((changes) => {
  const next = new Set(props.chosen)
  for (const change of (Array.isArray(changes) ? changes : [changes]) as NodeChange[]) {
    if (change.type !== 'select') continue
    if (change.selected) next.add(change.id)
    else next.delete(change.id)
  }
  if (next.size !== props.chosen.size || [...next].some((id) => !props.chosen.has(id))) emit('select', [...next])
})

/** Give all cards back to the automatic layout. */
function tidy() {
  graph.edit('tidy the board', (next) => {
    for (const node of Object.values(next.nodes)) if (node.place) node.place = null
  })
  setTimeout(fit, 120)
}

/** Put the chosen cards in a line; they stay there, as if they were placed by hand. */
function align() {
  const ids = Object.keys(graph.document.value.nodes).filter((id) => props.chosen.has(id))
  const made = inLine(ids, places.value, sizes.value, props.way)
  graph.edit('put cards in a line', (next) => {
    for (const [id, { x, y }] of Object.entries(made)) next.nodes[id]!.place = [Math.round(x), Math.round(y)]
  })
}
watch(way, () => setTimeout(fit, 160))

defineExpose({ fit, showAll, follow, centre, tidy, cutWire, align })
</script>

<template>
  <div class="cards" :class="{ far: zoom < FAR, dots: zoom < DOTS }" :style="{ '--zoom': zoom }">
    <VueFlow
      id="board"
      :key="way"
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
      <template #edge-wire="edge"><Wire v-bind="edge" :cards="boxes" /></template>
      <Frames :places="places" :sizes="sizes" @select="emit('select', $event)" />
      <MiniMap
        v-if="nodes.length > MANY && zoom >= FAR && !chosen.size"
        pannable
        zoomable
        :width="132"
        :height="96"
        aria-label="Overview of the board"
        data-test="overview"
      />
    </VueFlow>
  </div>
</template>

<style scoped>
.cards {
  height: 100%;
  background: radial-gradient(circle at 1px 1px, color-mix(in srgb, var(--ink) 9%, transparent) 1px, transparent 1.5px)
    0 0 / 22px 22px;
}
.cards :deep(.vue-flow__edge-path) {
  stroke: var(--wire);
  stroke-width: 3;
}
.cards.far :deep(.vue-flow__edge-path) {
  stroke-width: calc(1.5px / var(--zoom));
}
.cards :deep(.vue-flow__minimap) {
  margin: 8px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--sheet);
}
.cards :deep(.vue-flow__minimap-node) {
  fill: var(--wire);
}
.cards :deep(.vue-flow__minimap-node.selected) {
  fill: var(--accent);
}
.cards :deep(.vue-flow__minimap-mask) {
  fill: color-mix(in srgb, var(--backdrop-bottom) 55%, transparent);
}
.cards :deep(.vue-flow__edge-text) {
  fill: var(--live-ink);
  font: 12px var(--mono);
}
.cards :deep(.vue-flow__edge-textbg) {
  fill: var(--live-wash);
}
.cards :deep(.vue-flow__edge.value .vue-flow__edge-path) {
  stroke-width: 1.5;
}
.cards :deep(.vue-flow__handle.value) {
  width: 9px;
  height: 9px;
  border-width: 1.5px;
  border-radius: 50%;
}
.cards :deep(.vue-flow__edge.chosen .vue-flow__edge-path),
.cards :deep(.vue-flow__edge:hover .vue-flow__edge-path) {
  stroke: var(--accent);
}
.cards :deep(.vue-flow__connection-path) {
  stroke: var(--accent);
  stroke-width: 3;
}
.cards :deep(.vue-flow__handle) {
  width: 15px;
  height: 9px;
  border: 2px solid var(--wire);
  border-radius: 3px;
  background: var(--sheet);
}
.cards :deep(.vue-flow__handle.optional) {
  border-style: dashed;
}
.cards :deep(.vue-flow__handle.many) {
  width: 30px;
}
.cards :deep(.vue-flow__handle:hover),
.cards :deep(.vue-flow__handle.connecting) {
  border-color: var(--accent);
  background: var(--accent-wash);
}
</style>
