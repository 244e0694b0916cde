<script setup lang="ts">
/** One row per element of the node that is looked at. */
import { useElementSize, watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import { isError, KINDS, type Kind, type Rows } from '../api/looks'
import { useEvaluation } from '../bench/useEvaluation'
import { useSelection } from '../bench/useSelection'
import { useGraph } from '../board/useGraph'
import KindGlyph from '../shared/KindGlyph.vue'
import { count, short } from '../shared/numbers'
import { usePages } from './usePages'
import { useWindow } from './useWindow'

defineProps<{ script?: string | null }>()
defineEmits<{ script: [node: string] }>()

interface Row {
  index: number
  cells: unknown[]
}
interface Cell {
  unit: string
  key: string
  title: string
  sort: string
  type: string
  column: number
  part: number
}

const COMPONENTS: Record<string, number> = { vec2: 2, vec3: 3, vec4: 4 }
const { looks, shownNode } = useEvaluation()
const graph = useGraph()
const selection = useSelection()
const kind = ref<Kind>('face')
const sort = ref('index')
const descending = ref(false)
const typed = ref('')
const where = ref('')
const columns = shallowRef<Rows['columns']>([])
const counts = computed(() => {
  const at = looks.value?.wishes.findIndex((wish) => wish.what === 'summary') ?? -1
  return (at >= 0 ? (looks.value!.answers[at]!.counts as Record<string, number>) : null) ?? {}
})

const pages = usePages<Row>(async (offset, limit) => {
  const node = shownNode.value
  if (!node || !graph.state.value) return { rows: [], total: 0 }
  const wish = { what: 'rows', kind: kind.value, offset, limit, sort: sort.value, descending: descending.value, where: where.value }
  const [look] = (await api.looks(graph.state.value.id, node, [wish], graph.basis())).looks
  if (isError(look)) throw new Error(look.error.message)
  const answer = look as unknown as Rows
  if (!answer.columns) return { rows: [], total: 0 }
  columns.value = answer.columns
  return { rows: answer.rows.map((cells, i) => ({ index: answer.index[i]!, cells })), total: answer.total }
})

/** Vectors get a column per component. */
const cells = computed<Cell[]>(() =>
  columns.value.flatMap((column, number) => {
    const parts = COMPONENTS[column.type]
    const own = { type: column.type, unit: column.unit, column: number }
    if (!parts) return [{ ...own, key: column.name, title: column.name, sort: column.name, part: -1 }]
    const letters = column.name === 'color' ? 'rgba' : column.name === 'uv' ? 'uv' : 'xyzw'
    return Array.from({ length: parts }, (_, part) => ({
      ...own, part, key: `${column.name}.${part}`, title: `${column.name}.${letters[part]}`, sort: `${column.name}.${part}`,
    })) // prettier-ignore
  }),
)

const body = ref<HTMLElement>()
const { height } = useElementSize(body)
const visible = useWindow(pages.total, height)
const rows = computed(() => {
  const from = visible.first.value
  return Array.from({ length: Math.max(visible.last.value - from, 0) }, (_, i) => ({ at: from + i, row: pages.row(from + i) }))
})

watch([kind, sort, descending, where, () => looks.value?.key, () => shownNode.value], () => {
  pages.reset()
  pages.want(visible.first.value, Math.max(visible.last.value - 1, visible.first.value))
})
watch([visible.first, visible.last], ([from, to]) => pages.want(from, Math.max(to - 1, from)), { immediate: true })
watchDebounced(typed, (text) => (where.value = text), { debounce: 350 })
watch(selection.kind, (now) => (kind.value = now))
watch(kind, (now) => {
  sort.value = 'index'
  typed.value = where.value = ''
  if (['point', 'edge', 'corner', 'face'].includes(now)) selection.kind.value = now
})
watch(selection.latest, (touched) => {
  if (!touched || touched.from === 'ledger' || sort.value !== 'index' || where.value || !body.value) return
  const row = descending.value ? pages.total.value - 1 - touched.index : touched.index
  if (row < visible.first.value || row >= visible.last.value - 1) body.value.scrollTop = visible.placeOf(row)
})

function order(column: string) {
  if (sort.value === column) descending.value = !descending.value
  else [sort.value, descending.value] = [column, false]
}

function shown(row: Row, cell: Cell): string {
  const value = row.cells[cell.column]
  const part = cell.part >= 0 && Array.isArray(value) ? value[cell.part] : value
  if (typeof part === 'number') return cell.type === 'integer' ? String(part) : short(part)
  if (typeof part === 'boolean') return part ? 'yes' : '·'
  return Array.isArray(part) ? `[${part.length > 6 ? `${part.slice(0, 6).join(', ')}, …` : part.join(', ')}]` : String(part ?? '')
}

/** Kinds that most meshes have none of are offered only where there are some. */
const offered = computed(() => KINDS.filter((entry) => entry === kind.value || !['curve', 'instance'].includes(entry) || counts.value[`${entry}s`]))

const canPick = computed(() => ['point', 'edge', 'corner', 'face'].includes(kind.value))
function pick(event: MouseEvent | KeyboardEvent, row: Row | undefined) {
  if (row && canPick.value) selection.pick(row.index, event.shiftKey || event.ctrlKey || event.metaKey, 'ledger')
}
</script>

<template>
  <section class="ledger" aria-label="Ledger">
    <div class="bar">
      <div class="tabs" role="tablist" aria-label="Element kind">
        <button v-for="entry in offered" :key="entry" class="plain" role="tab" :aria-selected="kind === entry" :aria-pressed="kind === entry" :data-test="`ledger-${entry}`" @click="kind = entry">
          <KindGlyph :kind="entry" />{{ entry === 'whole' ? 'whole' : `${entry}s` }}
          <span v-if="entry !== 'whole'" class="faint mono">{{ count(counts[`${entry}s`] ?? 0) }}</span>
        </button>
      </div>
      <button v-if="script" class="plain boxed" title="Show the text of the chosen script here" data-test="show-script" @click="$emit('script', script)">Script</button>
      <label class="filter"><span class="faint">where</span><input v-model="typed" class="text mono" placeholder="formula, e.g. area > 0.001" aria-label="Filter by formula" data-test="ledger-where" spellcheck="false" /></label>
      <span class="faint status" role="status">
        <template v-if="pages.trouble.value"><span class="bad">{{ pages.trouble.value }}</span></template>
        <template v-else>{{ count(pages.total.value) }} rows<template v-if="selection.chosen.value.size">, {{ count(selection.chosen.value.size) }} selected</template></template>
      </span>
    </div>
    <div ref="body" class="body" tabindex="0" role="table" :aria-rowcount="pages.total.value" @scroll="visible.scrolled.value = ($event.target as HTMLElement).scrollTop">
      <div class="grid" :style="{ gridTemplateColumns: `72px repeat(${cells.length}, max-content) 1fr` }">
        <div class="head" role="row">
          <button role="columnheader" class="cell" @click="order('index')">index{{ sort === 'index' ? (descending ? ' ↓' : ' ↑') : '' }}</button>
          <button v-for="cell in cells" :key="cell.key" role="columnheader" class="cell" :class="{ text: cell.type === 'text' }" :title="`${cell.type}; click to sort`" :data-test="`column-${cell.title}`" @click="order(cell.sort)">
            {{ cell.title }}<span v-if="cell.unit" class="unit faint">{{ cell.unit }}</span>{{ sort === cell.sort ? (descending ? ' ↓' : ' ↑') : '' }}
          </button>
          <span />
        </div>
        <div class="filler" :style="{ height: `${visible.offset.value}px` }" />
        <div v-for="{ at, row } in rows" :key="at" class="row mono" role="row" :tabindex="row && canPick ? 0 : -1" :class="{ chosen: row && canPick && selection.chosen.value.has(row.index), odd: at % 2 }" data-test="ledger-row" @click="pick($event, row)" @keydown.enter="pick($event, row)">
          <template v-if="row">
            <span class="cell index">{{ row.index }}</span>
            <span v-for="cell in cells" :key="cell.key" class="cell" :class="{ text: cell.type === 'text' }">{{ shown(row, cell) }}</span>
          </template>
          <span v-else class="cell index faint">…</span>
          <span />
        </div>
      </div>
      <div class="filler" :style="{ height: `${Math.max(visible.tall.value - visible.offset.value - rows.length * 26, 0)}px` }" />
    </div>
  </section>
</template>

<style scoped>
.ledger {
  display: flex;
  flex-direction: column;
  height: 100%;
  min-width: 0;
  min-height: 0;
  background: var(--sheet);
}
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 10px;
  padding: 3px 8px;
  border-bottom: 1px solid var(--line);
  font-size: 13px;
}
.tabs {
  display: flex;
  flex-wrap: wrap;
}
.tabs .plain {
  padding: 2px 7px;
}
.filter {
  display: inline-flex;
  align-items: center;
  gap: 5px;
  flex: 1 1 150px;
}
.filter input {
  flex: 1;
  border-width: 1px;
}
.status {
  margin-left: auto;
}
.bad {
  color: var(--bad);
}
.body {
  flex: 1;
  overflow: auto;
  font-size: 13px;
}
.grid {
  display: grid;
  min-width: 100%;
}
.head,
.row {
  display: grid;
  grid-column: 1 / -1;
  grid-template-columns: subgrid;
  height: 26px;
  align-items: center;
}
.head {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--sheet);
  box-shadow: 0 1px 0 var(--line);
}
.head .cell {
  border: 0;
  background: none;
  font-weight: 600;
  cursor: pointer;
}
.unit {
  margin-left: 5px;
  font-weight: 400;
}
.filler {
  grid-column: 1 / -1;
}
.cell {
  padding: 0 10px;
  text-align: right;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  min-width: 86px;
  max-width: 260px;
}
.cell.index {
  min-width: 0;
}
.cell.text {
  text-align: left;
  min-height: 0;
  border: 0;
  background: none;
}
.index {
  color: var(--faint-ink);
}
.odd {
  background: color-mix(in srgb, var(--ink) 3%, transparent);
}
.row {
  cursor: pointer;
}
.row:hover {
  background: color-mix(in srgb, var(--accent) 10%, transparent);
}
.row.chosen {
  background: var(--accent-wash);
  box-shadow: inset 3px 0 0 var(--accent);
}
</style>
