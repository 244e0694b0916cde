<script setup lang="ts">
/** Where the graph is: cards top to bottom, wires between them. */
import '@vue-flow/core/dist/style.css'
import {
  type Connection,
  type EdgeMouseEvent,
  type NodeChange,
  type NodeDragEvent,
  useVueFlow,
  VueFlow,
} from '@vue-flow/core'
import { ElMessageBox } from 'element-plus'
import { computed, nextTick, provide, ref, watch } from 'vue'
import { useCatalogue } from '../stores/useCatalogue'
import { cardsFromText, cardsToText, paste } from '../model/clipboard'
import {
  connect,
  disconnect,
  feedOf,
  freeName,
  inputsOf,
  insertInto,
  parameterOf,
  splitFeed,
  wires,
  wouldCircle,
  type Wire,
} from '../model/document'
import Card from './card/Card.vue'
import Frames from './Frames.vue'
import { tiesKey } from '../stores/injectionKeys'
import SearchBox from './SearchBox.vue'
import { followersOf } from '../model/parameterLinks'
import WirePreview from './WirePreview.vue'
import Breadcrumbs from './Breadcrumbs.vue'
import { tell, useChanges } from '../stores/useChanges'
import { useSelectedCards } from '../stores/useSelectedCards'
import { layout, revealing, viewportFor, type Size } from '../model/layout'
import { useGraph } from '../stores/useGraph'

const graph = useGraph()
const { operatorOf } = useCatalogue()
const flow = useVueFlow('board')
const changes = useChanges()
const searching = ref(false)
const chosenWire = ref('')
const followers = computed(() => followersOf(graph.document.value))
provide(tiesKey, followers)
const sizes = ref<Record<string, Size>>({})
const chosenCards = ref<ReadonlySet<string>>(new Set())
const { cards } = useSelectedCards()
const selected = computed(() => Object.keys(graph.document.value.nodes).filter((id) => chosenCards.value.has(id)))

watch(selected, (now) => (cards.value = now))

const places = computed(() => layout(graph.document.value, sizes.value))
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
const edges = computed(() =>
  wires(graph.document.value).map((wire) => ({
    id: wireId(wire),
    source: wire.from,
    target: wire.to,
    sourceHandle: wire.output ?? firstOutput(wire.from),
    targetHandle: wire.input,
    type: 'default',
    interactionWidth: 22,
    data: wire,
    class: [parameterOf(wire.input) === null ? '' : 'value', chosenWire.value === wireId(wire) ? 'chosen' : ''].join(
      ' ',
    ),
  })),
)

/** Cards are laid out by their real size: an opened card makes room for itself. */
flow.onNodesInitialized(measure)
watch(
  () => flow.getNodes.value.map((node) => `${node.id}:${node.dimensions.width}x${node.dimensions.height}`).join(),
  measure,
)
function measure() {
  const next: Record<string, Size> = {}
  for (const node of flow.getNodes.value) if (node.dimensions.width) next[node.id] = { ...node.dimensions }
  if (JSON.stringify(next) !== JSON.stringify(sizes.value)) sizes.value = next
}

/** Show everything at full size if there is room; else the card that is looked at, with what leads to it. */
async function fit() {
  await nextTick()
  const { width, height } = flow.dimensions.value
  const at = splitFeed(graph.document.value.looking_at ?? '').from
  const viewport = viewportFor(places.value, sizes.value, at, { width, height })
  await flow.setViewport({ ...viewport, zoom: 1 })
}

/** After a graph is opened or a card added, cards grow as their results arrive; until then, or a touch, the board follows. */
const SETTLING_MS = 2500
let settling = Date.now() + SETTLING_MS
watch([() => graph.state.value?.id, () => graph.path.value.join('/')], () => {
  chosenCards.value = new Set()
  follow()
})
function follow() {
  settling = Date.now() + SETTLING_MS
}
watch(sizes, () => {
  if (Date.now() < settling && Object.keys(sizes.value).length) setTimeout(fit, 60)
})
/** A card that is opened is moved into sight once its size is known. */
const REVEALING_MS = 600
let opened = { id: '', until: 0 }
watch(chosenCards, (now) => (opened = { id: now.size === 1 ? [...now][0]! : '', until: Date.now() + REVEALING_MS }))
watch(sizes, (now) => {
  const place = places.value[opened.id]
  const size = now[opened.id]
  if (!place || !size || Date.now() > opened.until) return
  const at = flow.viewport.value
  if (at.zoom === 1)
    void flow.setViewport({ ...revealing(at, place, size, flow.dimensions.value), zoom: 1 }, { duration: 120 })
})
flow.onMoveStart(({ event }) => {
  if (event?.sourceEvent) settling = 0
})

function canConnect({ source, target, targetHandle }: Connection): boolean {
  const carries = operatorOf(graph.document.value.nodes[source])?.makes_value ?? false
  if (carries !== (parameterOf(targetHandle ?? '') !== null)) return false
  return source !== target && !wouldCircle(graph.document.value, source, target)
}

function wireId(wire: Wire): string {
  return `${feedOf(wire)}>${wire.to}>${wire.input}`
}

function firstOutput(id: string): string {
  return operatorOf(graph.document.value.nodes[id])?.outputs[0]?.name ?? 'geo'
}

function onConnect({ source, target, sourceHandle, targetHandle }: Connection) {
  if (!targetHandle) return
  const node = graph.document.value.nodes[target]
  const many = inputsOf(node, operatorOf(node)).find((entry) => entry.name === targetHandle)?.many ?? false
  const output = sourceHandle && sourceHandle !== firstOutput(source) ? sourceHandle : undefined
  graph.edit('connect', (next) => connect(next, { from: source, output, to: target, input: targetHandle }, many))
}

function onDragStop({ nodes: moved, node }: NodeDragEvent) {
  const under = moved.length === 1 ? wireUnder(node.id) : null
  const entry = operatorOf(graph.document.value.nodes[node.id])?.inputs[0]
  if (under && entry && !wouldCircle(graph.document.value, under.from, node.id)) {
    graph.edit('put into a wire', (next) => {
      insertInto(next, under, node.id, entry.name)
      next.nodes[node.id]!.place = null
    })
    return
  }
  graph.edit(moved.length > 1 ? 'move cards' : 'move a card', (next) => {
    for (const one of moved) next.nodes[one.id]!.place = [Math.round(one.position.x), Math.round(one.position.y)]
  })
}

/** The wire that a dropped card lies on, if it has none of its own yet. */
function wireUnder(id: string): Wire | null {
  const own = wires(graph.document.value).some((wire) => wire.from === id || wire.to === id)
  const box = document.querySelector(`[data-test="card-${CSS.escape(id)}"]`)?.getBoundingClientRect()
  if (own || !box) return null
  for (const drawn of document.querySelectorAll<SVGGElement>('.board .vue-flow__edge')) {
    const path = drawn.querySelector<SVGPathElement>('.vue-flow__edge-path')
    const wire = edges.value.find((edge) => edge.id === drawn.dataset.id)?.data
    if (path && wire && parameterOf(wire.input) === null && runsThrough(path, box)) return wire
  }
  return null
}

/** Whether a drawn wire runs through a box of the screen. */
function runsThrough(path: SVGPathElement, box: DOMRect): boolean {
  const toScreen = path.getScreenCTM()
  const length = path.getTotalLength()
  return Array.from({ length: 25 }, (_, i) =>
    path.getPointAtLength((length * i) / 24).matrixTransform(toScreen ?? undefined),
  ).some(({ x, y }) => x > box.left && x < box.right && y > box.top && y < box.bottom)
}

/** The feed of which it is told what goes through. */
const asked = ref('')
watch([() => graph.state.value?.id, () => graph.path.value.join('/')], () => (asked.value = ''))

function pickWire({ edge }: EdgeMouseEvent) {
  chosenWire.value = edge.id
  const wire = edges.value.find((entry) => entry.id === edge.id)?.data
  asked.value = wire && parameterOf(wire.input) === null ? feedOf(wire) : ''
}

function cutWire(): boolean {
  const wire = edges.value.find((edge) => edge.id === chosenWire.value)?.data
  chosenWire.value = ''
  asked.value = ''
  if (wire) graph.edit('disconnect', (next) => disconnect(next, wire))
  return !!wire
}

function select(ids: string[]) {
  chosenCards.value = new Set(ids)
}

/** Clicks and box selections on the board arrive as changes. */
flow.onNodesChange((changes) => {
  const next = new Set(chosenCards.value)
  for (const change of [changes].flat() as NodeChange[]) {
    if (change.type !== 'select') continue
    if (change.selected) next.add(change.id)
    else next.delete(change.id)
  }
  if (next.size !== chosenCards.value.size || [...next].some((id) => !chosenCards.value.has(id)))
    chosenCards.value = next
})

/** Make one card of the chosen ones. */
async function foldChosen() {
  const ids = selected.value
  const first = graph.document.value.nodes[ids[0]!]
  const answer = await ElMessageBox.prompt(`${ids.length} cards become one, which holds them. Its title:`, 'Fold', {
    inputValue: ids.length === 1 ? (first?.title ?? operatorOf(first)?.label ?? '') : '',
    inputPattern: /\S/,
    inputErrorMessage: 'Give it a title.',
    confirmButtonText: 'Fold',
    cancelButtonText: 'Cancel',
  }).catch(() => null)
  const title = ((answer as { value?: string } | null)?.value ?? '').trim()
  if (!title) return
  follow()
  const made = await changes.make(`fold ${title}`, 'fold', { nodes: ids, title })
  if (made) void nextTick(() => select(made.cards))
}

/** Put a frame around the chosen cards. */
function frameChosen() {
  const ids = selected.value
  graph.edit('frame cards', (next) => {
    const key = freeName('frame', Object.keys(next.frames ?? {}))
    next.frames = { ...next.frames, [key]: { title: '', note: '', nodes: ids } }
  })
}

/** Name the chosen card as a place to jump to. */
async function nameJump() {
  const id = selected.value[0]!
  const known = Object.entries(graph.document.value.jumps ?? {}).find(([, target]) => target === id)?.[0] ?? ''
  const answer = await ElMessageBox.prompt(
    'Its name, to jump to it from anywhere; empty takes it away:',
    'Jump point',
    { inputValue: known, confirmButtonText: 'Keep', cancelButtonText: 'Cancel' },
  ).catch(() => null)
  if (!answer) return
  const name = ((answer as { value?: string }).value ?? '').trim()
  graph.edit('name a jump point', (next) => {
    next.jumps = { ...next.jumps }
    if (known) delete next.jumps[known]
    if (name) next.jumps[name] = id
  })
}

/** The chosen cards as text. */
function copy(): string {
  return cardsToText(graph.document.value, selected.value)
}

/** Put cards from a text into the graph. */
async function pasteText(text: string) {
  const cards = cardsFromText(text)
  if (!cards) return tell('There are no cards in the clipboard.')
  let made: string[] = []
  graph.edit('paste cards', (next) => (made = paste(next, cards)))
  await nextTick()
  select(made)
}

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
  const place = places.value[id]
  const pane = flow.dimensions.value
  const size = sizes.value[id] ?? { width: 224, height: 76 }
  if (place)
    await flow.setViewport(
      { x: pane.width / 2 - place.x - size.width / 2, y: pane.height / 3 - place.y, zoom: 1 },
      { duration: 200 },
    )
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
  <section class="board" aria-label="Board">
    <div class="bar">
      <b>Board</b>
      <span class="faint">{{ nodes.length }} {{ nodes.length === 1 ? 'card' : 'cards' }}</span>
      <button
        v-if="selected.length > 1"
        class="plain boxed"
        data-test="fold"
        title="Make one card of these (G)"
        @click="foldChosen"
      >
        Fold {{ selected.length }}
      </button>
      <button
        v-if="selected.length > 1"
        class="plain"
        data-test="frame"
        title="Put a frame around these"
        @click="frameChosen"
      >
        Frame
      </button>
      <button v-if="chosenWire" class="plain boxed cut" data-test="cut" @click="cutWire">Cut this wire</button>
      <button class="plain" data-test="search" title="Search in the graph (Ctrl+F)" @click="searching = !searching">
        Search
      </button>
      <button class="plain" title="Show all cards" @click="fit">All cards</button>
      <button class="plain" title="Lay all cards out again, those placed by hand too" @click="tidy">Tidy</button>
    </div>
    <Breadcrumbs />
    <div class="pane">
      <WirePreview v-if="asked" :feed="asked" @close="asked = ''" />
      <SearchBox v-if="searching" @go="go" @close="searching = false" />
      <VueFlow
        id="board"
        :nodes="nodes"
        :edges="edges"
        :min-zoom="0.2"
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
.bar .plain {
  padding: 0 6px;
}
.board :deep(.vue-flow__edge-path) {
  stroke: var(--wire);
  stroke-width: 3;
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
