<script setup lang="ts">
/** The graph as a list: a row for each node in the order of evaluation, with lanes for where its result goes. */
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, toRef, watch } from 'vue'
import { useEvaluation } from '../../stores/useEvaluation'
import { useCatalogue } from '../../stores/useCatalogue'
import { useGraph } from '../../stores/useGraph'
import { nodeLine, type GraphDocument } from '../../model/document'
import LaneHead from './LaneHead.vue'
import LaneRow from './LaneRow.vue'
import LaneStrip from './LaneStrip.vue'
import { useLaneDrag } from './useLaneDrag'
import { isOwn, useLaneEntries, type NodeEntry } from './useLaneEntries'
import { useWindow } from './useWindow'

const props = defineProps<{ chosen: ReadonlySet<string>; words: string }>()
const emit = defineEmits<{ select: [ids: string[]]; go: [place: { path: string[]; id: string }] }>()
const TALL = 22
/** Pixels that all lanes together may take, and one of them at most. */
const ROOM = 132
const WIDEST = 12

const graph = useGraph()
const { reports } = useEvaluation()
const { operatorOf } = useCatalogue()
const { own, entries, wide, unfolded, turn, titleOf } = useLaneEntries(toRef(props, 'words'))
/** Titles in a graph, that which is worked on or one inside of it. */
const namesIn = (within: GraphDocument) => (id: string) => (within.nodes[id] ? titleOf(within.nodes[id]) : id)
const nameOf = (id: string) => namesIn(graph.document.value)(id)
/** Lanes lead from row to row: a list that is filtered has none. */
const lanes = computed(() => (props.words.trim() ? 0 : wide.value))
const level = computed(() => graph.path.value.join('/'))
const step = computed(() => Math.min(WIDEST, ROOM / wide.value))
const slowest = computed(() => Object.values(reports.value).reduce((most, one) => Math.max(most, one.seconds ?? 0), 0))

/** The row whose controls are open, and how tall they are. */
const opened = ref('')
const tall = ref(0)
const list = ref<HTMLElement>()
const { height } = useElementSize(list)
const isOpen = (at: number) => {
  const entry = entries.value[at]
  return isOwn(entry) && entry.id === opened.value
}
const { scrolled, starts, rowAt, first, last, total } = useWindow(
  computed(() => entries.value.length),
  (at) => TALL + (isOpen(at) ? tall.value : 0),
  height,
)
const shown = computed(() =>
  entries.value.slice(first.value, last.value).map((entry, n) => ({ entry, at: first.value + n })),
)
const { target, grab } = useLaneDrag({ list, entries, own, starts, rowAt, step, titleOf: nameOf })

/** Hand an event to the row that it is in: rows without listeners of their own are left alone while one scrolls. */
function onRow<Kind extends Event>(event: Kind, act: (event: Kind, entry: NodeEntry) => void) {
  const at = (event.target as Element).closest<HTMLElement>('[data-at]')?.dataset.at
  const entry = at === undefined ? undefined : entries.value[Number(at)]
  if (entry?.kind === 'node') act(event, entry)
}
const press = (event: PointerEvent, entry: NodeEntry) => isOwn(entry) && grab(event, entry.id)

/** The rows that one walks along. */
const walked = computed(() => entries.value.filter(isOwn))
const current = computed(() => (props.chosen.size === 1 ? [...props.chosen][0]! : ''))
let walking = false

/** What is chosen opens, whoever chose it; but not while one walks along the rows. */
watch(
  [() => props.chosen, level],
  ([now]) => {
    opened.value = now.size === 1 && !walking ? [...now][0]! : ''
    walking = false
    if (now.size === 1) void nextTick(() => reveal([...now][0]!))
  },
  { immediate: true },
)

function reveal(id: string) {
  const at = entries.value.findIndex((entry) => isOwn(entry) && entry.id === id)
  if (at < 0 || !list.value) return
  const [top, bottom] = [starts.value[at]!, starts.value[at + 1]!]
  if (top < list.value.scrollTop) list.value.scrollTop = top
  else if (bottom > list.value.scrollTop + height.value) list.value.scrollTop = Math.min(top, bottom - height.value)
}
function resized(id: string, now: number) {
  if (id !== opened.value || now === tall.value) return
  tall.value = now
  void nextTick(() => reveal(id))
}

function pick(event: MouseEvent, entry: NodeEntry) {
  if (entry.path.length) return emit('go', { path: [...graph.path.value, ...entry.path], id: entry.id })
  if (event.ctrlKey || event.metaKey) {
    const next = new Set(props.chosen)
    if (!next.delete(entry.id)) next.add(entry.id)
    return emit('select', [...next])
  }
  if (event.shiftKey && current.value) {
    const ids = walked.value.map((one) => one.id)
    const [from, to] = [ids.indexOf(current.value), ids.indexOf(entry.id)].sort((a, b) => a - b)
    return emit('select', ids.slice(from, to! + 1))
  }
  if (current.value === entry.id) opened.value = opened.value === entry.id ? '' : entry.id
  else emit('select', [entry.id])
}

function walk(by: number, far = false) {
  const ids = walked.value.map((entry) => entry.id)
  const at = ids.indexOf(current.value)
  const to = far ? (by < 0 ? 0 : ids.length - 1) : Math.min(Math.max(at + by, 0), ids.length - 1)
  if (!ids[to] || ids[to] === current.value) return
  walking = true
  emit('select', [ids[to]])
}

function key(event: KeyboardEvent) {
  if (event.target !== list.value || event.ctrlKey || event.altKey || event.shiftKey) return
  const entry = walked.value.find((one) => one.id === current.value)
  const inside = entry?.node.graph !== undefined
  if (event.key === 'ArrowDown') walk(1)
  else if (event.key === 'ArrowUp') walk(-1)
  else if (event.key === 'Home') walk(-1, true)
  else if (event.key === 'End') walk(1, true)
  else if (event.key === 'Enter' && entry && opened.value !== entry.id) opened.value = entry.id
  else if (event.key === 'Enter' && entry && !inside) opened.value = ''
  else if (event.key === 'Escape' && opened.value) opened.value = ''
  else if (event.key === 'ArrowRight' && inside && !unfolded.value.has(entry.key)) turn(entry.key)
  else if (event.key === 'ArrowLeft' && inside && unfolded.value.has(entry.key)) turn(entry.key)
  else return
  event.preventDefault()
  event.stopPropagation()
}

defineExpose({ centre: async (id: string) => reveal(id) })
</script>

<template>
  <div class="lanes">
    <div
      ref="list"
      class="list"
      role="tree"
      tabindex="0"
      aria-label="Nodes in the order of evaluation"
      :aria-activedescendant="current ? `row-${current}` : undefined"
      :style="{ '--tall': `${TALL}px` }"
      data-test="lanes"
      @scroll="scrolled = ($event.target as HTMLElement).scrollTop"
      @keydown="key"
    >
      <div class="ground" :style="{ height: `${total}px` }">
        <div
          class="window"
          @click="onRow($event, pick)"
          @pointerdown="onRow($event, press)"
          :style="{ transform: `translateY(${starts[first] ?? 0}px)` }"
        >
          <template v-for="{ entry, at } in shown" :key="`${level} ${entry.key}`">
            <div
              v-if="entry.kind === 'frame'"
              class="heading"
              role="presentation"
              :data-test="`heading-${entry.frame}`"
            >
              <LaneStrip
                v-if="lanes"
                :beside="entry.beside"
                :wide="lanes"
                :step="step"
                :tall="TALL"
                :title-of="nameOf"
              />
              <b>{{ entry.title }}</b> <span class="faint note" :title="entry.note">{{ entry.note }}</span>
            </div>
            <div
              v-else-if="entry.path.length"
              class="inner"
              role="treeitem"
              :aria-level="entry.path.length + 1"
              :title="`Go inside to ‘${titleOf(entry.node)}’`"
              :data-test="`inner-${entry.key}`"
              :data-at="at"
            >
              <LaneStrip
                v-if="lanes"
                :row="entry.row"
                :first="entry.first"
                :beside="entry.beside"
                :wide="lanes"
                :step="step"
                :tall="TALL"
                :title-of="namesIn(entry.graph)"
              />
              <LaneHead
                :title="titleOf(entry.node)"
                :line="nodeLine(entry.node, operatorOf(entry.node))"
                :nests="!!entry.node.graph"
                :unfolded="unfolded.has(entry.key)"
                @turn="turn(entry.key)"
              />
            </div>
            <LaneRow
              v-else
              :id="`row-${entry.id}`"
              :data-at="at"
              role="treeitem"
              :aria-level="1"
              :aria-selected="chosen.has(entry.id)"
              :aria-expanded="isOpen(at)"
              :entry="entry"
              :wide="lanes"
              :step="step"
              :tall="TALL"
              :open="isOpen(at)"
              :chosen="chosen.has(entry.id)"
              :unfolded="unfolded.has(entry.key)"
              :slowest="slowest"
              :title-of="nameOf"
              @turn="turn(entry.key)"
              @resize="resized(entry.id, $event)"
            />
          </template>
        </div>
        <template v-if="target">
          <i class="gap" :class="{ not: target.trouble }" :style="{ top: `${target.top}px` }"
            ><i :style="{ left: `${target.left}px` }"
          /></i>
          <span
            class="said"
            :class="{ not: target.trouble }"
            role="status"
            :style="{ top: `${target.y + 12}px`, left: `${Math.min(target.x + 14, 200)}px` }"
            data-test="drop-said"
            ><b>{{ nameOf(target.id) }}</b> {{ target.said }}</span
          >
        </template>
      </div>
      <p v-if="words.trim() && !entries.length" class="faint none">No row fits.</p>
    </div>
  </div>
</template>

<style scoped>
.lanes {
  display: flex;
  flex-direction: column;
  height: 100%;
  background: var(--sheet);
}
.list {
  position: relative;
  flex: 1;
  overflow: auto;
}
.list:focus-visible {
  outline-offset: -2px;
}
.ground {
  position: relative;
}
.window > * {
  contain: layout style;
}
.heading,
.inner {
  display: flex;
  align-items: center;
  gap: 6px;
  height: var(--tall);
  padding: 0 54px 0 3px;
  font-size: 13px;
}
.heading {
  border-top: 1px dashed var(--strong-line);
  background: color-mix(in srgb, var(--accent) 7%, transparent);
}
.inner {
  background: color-mix(in srgb, var(--ink) 4%, transparent);
  cursor: pointer;
}
.heading b {
  flex: none;
}
.heading {
  white-space: nowrap;
}
.note {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.gap {
  position: absolute;
  left: 0;
  right: 0;
  border-top: 2px solid var(--accent);
  pointer-events: none;
}
.gap i {
  position: absolute;
  top: -6px;
  width: 10px;
  height: 10px;
  margin-left: -5px;
  border: 2px solid var(--accent);
  border-radius: 3px;
  background: var(--sheet);
}
.gap.not {
  border-color: var(--bad);
  border-style: dashed;
}
.said {
  position: absolute;
  z-index: 5;
  padding: 2px 8px;
  border: 1px solid var(--accent);
  border-radius: 5px;
  background: var(--raised);
  box-shadow: var(--shade);
  font-size: 12.5px;
  white-space: nowrap;
  pointer-events: none;
}
.said.not {
  border-color: var(--bad);
  color: var(--bad);
}
.none {
  padding: 10px 14px;
}
</style>
