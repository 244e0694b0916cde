<script setup lang="ts">
/** One row per element of the node that is looked at. */
import { useElementSize, watchDebounced } from '@vueuse/core'
import { ElDropdown, ElDropdownItem, ElDropdownMenu, ElMessage } from 'element-plus'
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import { isError, KINDS, type Kind, type Rows } from '../api/results'
import { useEvaluation } from '../stores/useEvaluation'
import { useSelection } from '../stores/useSelection'
import { useGraph } from '../stores/useGraph'
import KindGlyph from '../shared/KindGlyph.vue'
import { count, short } from '../shared/numbers'
import { toCsv, readCell, useEditing } from './useEditing'
import HistogramCell from './HistogramCell.vue'
import { useColumns } from './useColumns'
import { usePages } from './usePages'
import { useStatistics } from './useStatistics'
import { useVirtualRows } from './useVirtualRows'

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
  name: string
  fixed: boolean
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
  const at = looks.value?.queries.findIndex((query) => query.what === 'summary') ?? -1
  return (at >= 0 ? (looks.value!.answers[at]!.counts as Record<string, number>) : null) ?? {}
})

const pages = usePages<Row>(async (offset, limit) => {
  const node = shownNode.value
  if (!node || !graph.state.value) return { rows: [], total: 0 }
  const query = {
    what: 'rows',
    kind: kind.value,
    offset,
    limit,
    sort: sort.value,
    descending: descending.value,
    where: where.value,
  }
  const [look] = (await api.looks(graph.state.value.id, node, [query], graph.basis())).looks
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
    const own = { type: column.type, unit: column.unit, column: number, name: column.name, fixed: column.built_in }
    if (!parts) return [{ ...own, key: column.name, title: column.name, sort: column.name, part: -1 }]
    const letters = column.name === 'color' ? 'rgba' : column.name === 'uv' ? 'uv' : 'xyzw'
    return Array.from({ length: parts }, (_, part) => ({
      ...own,
      part,
      key: `${column.name}.${part}`,
      title: `${column.name}.${letters[part]}`,
      sort: `${column.name}.${part}`,
    }))
  }),
)

const body = ref<HTMLElement>()
const { height } = useElementSize(body)
const visible = useVirtualRows(pages.total, height)
const rows = computed(() => {
  const from = visible.first.value
  return Array.from({ length: Math.max(visible.last.value - from, 0) }, (_, i) => ({
    at: from + i,
    row: pages.row(from + i),
  }))
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
  return Array.isArray(part)
    ? `[${part.length > 6 ? `${part.slice(0, 6).join(', ')}, …` : part.join(', ')}]`
    : String(part ?? '')
}

/** Kinds that most meshes have none of are offered only where there are some. */
const offered = computed(() =>
  KINDS.filter((entry) => entry === kind.value || !['curve', 'instance'].includes(entry) || counts.value[`${entry}s`]),
)

const canPick = computed(() => ['point', 'edge', 'corner', 'face'].includes(kind.value))
const editing = useEditing()
const edited = ref<{ row: number; key: string } | null>(null)
const EDITED = ['point', 'edge', 'corner', 'face', 'curve']

/** A double click on a value edits it, in a card of its own. */
async function begin(event: MouseEvent, row: Row, cell: Cell) {
  if (
    cell.fixed ||
    !EDITED.includes(kind.value) ||
    cell.type.includes('list') ||
    cell.type.startsWith('mat') ||
    graph.fixed.value
  )
    return
  edited.value = { row: row.index, key: cell.key }
  const host = event.currentTarget as HTMLElement
  await nextTick()
  host.querySelector('input')?.select()
}

async function settle(row: Row, cell: Cell, text: string) {
  if (!edited.value) return
  edited.value = null
  if (text === shown(row, cell)) return
  const part = readCell(text, cell.part >= 0 ? 'number' : cell.type)
  if (part === null)
    return ElMessage({
      type: 'error',
      message: `‘${text}’ does not fit ${cell.title}, which is a ${cell.part >= 0 ? 'number' : cell.type}.`,
    })
  const before = row.cells[cell.column]
  const value = cell.part >= 0 && Array.isArray(before) ? before.map((one, n) => (n === cell.part ? part : one)) : part
  await editing.edit(kind.value, cell.name, row.index, value)
}

function onColumn(cell: Cell, command: string) {
  if (command === 'rename') void editing.rename(kind.value, cell.name)
  else if (command === 'remove') editing.remove(kind.value, cell.name)
  else if (command === 'hide') chosenColumns.hide(cell.name)
  else if (command === 'left') chosenColumns.move(cell.name, -1)
  else if (command === 'right') chosenColumns.move(cell.name, 1)
  else editing.convert(kind.value, cell.name, command)
}

const chosenColumns = useColumns(cells, () => kind.value)
const { listed, hidden } = chosenColumns
const told = ref(false)
const { of: spreadOf } = useStatistics(told, kind, where)

const MOST_COPIED = 20_000
async function copy() {
  const id = graph.state.value?.id
  if (!id || !shownNode.value) return
  const rows: unknown[][] = []
  for (let offset = 0; offset < Math.min(pages.total.value, MOST_COPIED); offset += 2000) {
    const query = {
      what: 'rows',
      kind: kind.value,
      offset,
      limit: 2000,
      sort: sort.value,
      descending: descending.value,
      where: where.value,
    }
    const answer = (await api.looks(id, shownNode.value, [query], graph.basis())).looks[0] as unknown as Rows
    answer.rows.forEach((row, n) =>
      rows.push([
        answer.index[n],
        ...listed.value.map((cell) => (cell.part >= 0 ? (row[cell.column] as unknown[])[cell.part] : row[cell.column])),
      ]),
    )
  }
  await navigator.clipboard.writeText(
    toCsv(['index', ...listed.value.map((cell) => cell.title)], rows.slice(0, MOST_COPIED)),
  )
  ElMessage({
    type: 'success',
    message: `${count(Math.min(rows.length, MOST_COPIED))} rows are in the clipboard as CSV.`,
  })
}

function pick(event: MouseEvent | KeyboardEvent, row: Row | undefined) {
  if (row && canPick.value) selection.pick(row.index, event.shiftKey || event.ctrlKey || event.metaKey, 'ledger')
}
</script>

<template>
  <section class="ledger" aria-label="Ledger">
    <div class="bar">
      <div class="tabs" role="tablist" aria-label="Element kind">
        <button
          v-for="entry in offered"
          :key="entry"
          class="plain"
          role="tab"
          :aria-selected="kind === entry"
          :data-test="`ledger-${entry}`"
          @click="kind = entry"
        >
          <KindGlyph :kind="entry" />{{ entry === 'whole' ? 'whole' : `${entry}s` }}
          <span v-if="entry !== 'whole'" class="faint mono">{{ count(counts[`${entry}s`] ?? 0) }}</span>
        </button>
      </div>
      <button
        v-if="script"
        class="plain boxed"
        title="Show the text of the chosen script here"
        data-test="show-script"
        @click="$emit('script', script)"
      >
        Script
      </button>
      <label class="filter"
        ><span class="faint">where</span
        ><input
          v-model="typed"
          class="text mono"
          placeholder="formula, e.g. area > 0.001"
          aria-label="Filter by formula"
          data-test="ledger-where"
          spellcheck="false"
      /></label>
      <button
        class="plain"
        title="A new attribute for each element, as a card"
        data-test="add-column"
        @click="editing.add(kind)"
      >
        + column
      </button>
      <button v-if="hidden.length" class="plain" title="Show all columns again" @click="chosenColumns.showAll()">
        all columns
      </button>
      <button
        class="plain"
        :aria-pressed="told"
        title="How the values of each column are spread, over the rows that are listed"
        data-test="statistics"
        @click="told = !told"
      >
        statistics
      </button>
      <button class="plain" title="Copy these rows as CSV" data-test="copy-csv" @click="copy">CSV</button>
      <span class="faint status" role="status">
        <template v-if="pages.trouble.value"
          ><span class="bad">{{ pages.trouble.value }}</span></template
        >
        <template v-else
          >{{ count(pages.total.value) }} rows<template v-if="selection.chosen.value.size"
            >, {{ count(selection.chosen.value.size) }} selected</template
          ></template
        >
      </span>
    </div>
    <div
      ref="body"
      class="body"
      tabindex="0"
      role="table"
      :aria-rowcount="pages.total.value"
      @scroll="visible.scrolled.value = ($event.target as HTMLElement).scrollTop"
    >
      <div class="grid" :style="{ gridTemplateColumns: `72px repeat(${listed.length}, max-content) 1fr` }">
        <div class="head" role="row">
          <div class="cell column" role="columnheader">
            <button @click="order('index')">index{{ sort === 'index' ? (descending ? ' ↓' : ' ↑') : '' }}</button>
          </div>
          <div
            v-for="cell in listed"
            :key="cell.key"
            class="cell column"
            role="columnheader"
            :aria-sort="sort === cell.sort ? (descending ? 'descending' : 'ascending') : 'none'"
            :class="{ text: cell.type === 'text' }"
          >
            <button
              :title="`${cell.type}; click to sort`"
              :data-test="`column-${cell.title}`"
              @click="order(cell.sort)"
            >
              {{ cell.title }}<span v-if="cell.unit" class="unit faint">{{ cell.unit }}</span
              >{{ sort === cell.sort ? (descending ? ' ↓' : ' ↑') : '' }}
            </button>
            <ElDropdown v-if="!cell.fixed && cell.part < 1" trigger="click" @command="onColumn(cell, $event)">
              <button class="more" :aria-label="`More for ${cell.name}`" :data-test="`more-column-${cell.name}`">
                ⋮
              </button>
              <template #dropdown>
                <ElDropdownMenu>
                  <ElDropdownItem command="rename" :data-test="`rename-column-${cell.name}`">Rename…</ElDropdownItem>
                  <ElDropdownItem
                    v-for="type in editing.TYPES.filter((one) => one !== cell.type)"
                    :key="type"
                    :command="type"
                    >as {{ type }}</ElDropdownItem
                  >
                  <ElDropdownItem command="remove" divided :data-test="`remove-column-${cell.name}`"
                    >Remove</ElDropdownItem
                  >
                  <ElDropdownItem command="left" divided :data-test="`left-column-${cell.name}`"
                    >Move to the left</ElDropdownItem
                  >
                  <ElDropdownItem command="right">Move to the right</ElDropdownItem>
                  <ElDropdownItem command="hide">Hide this column</ElDropdownItem>
                </ElDropdownMenu>
              </template>
            </ElDropdown>
          </div>
          <span />
        </div>
        <div v-if="told" class="row spreads mono" role="row" data-test="spreads">
          <span class="cell index faint" role="rowheader">mean<br />± dev.</span>
          <HistogramCell v-for="cell in listed" :key="cell.key" :spread="spreadOf(cell.name, cell.part)" />
          <span />
        </div>
        <div class="filler" :style="{ height: `${visible.offset.value}px` }" />
        <div
          v-for="{ at, row } in rows"
          :key="at"
          class="row mono"
          role="row"
          :tabindex="row && canPick ? 0 : -1"
          :class="{ chosen: row && canPick && selection.chosen.value.has(row.index), odd: at % 2 }"
          data-test="ledger-row"
          @click="pick($event, row)"
          @keydown.enter="pick($event, row)"
        >
          <template v-if="row">
            <span class="cell index" role="cell">{{ row.index }}</span>
            <span
              v-for="cell in listed"
              :key="cell.key"
              class="cell"
              role="cell"
              :class="{ text: cell.type === 'text' }"
              :data-test="`cell-${row.index}-${cell.key}`"
              @dblclick.stop="begin($event, row, cell)"
            >
              <input
                v-if="edited?.row === row.index && edited.key === cell.key"
                class="edit mono"
                :value="shown(row, cell)"
                :aria-label="`${cell.title} of ${kind} ${row.index}`"
                @click.stop
                @blur="settle(row, cell, ($event.target as HTMLInputElement).value)"
                @keydown.stop
                @keydown.enter="($event.target as HTMLInputElement).blur()"
                @keydown.escape="edited = null"
              />
              <template v-else>{{ shown(row, cell) }}</template>
            </span>
          </template>
          <span v-else class="cell index faint" role="cell">…</span>
          <span />
        </div>
      </div>
      <div
        class="filler"
        :style="{ height: `${Math.max(visible.tall.value - visible.offset.value - rows.length * 26, 0)}px` }"
      />
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
.row.spreads {
  height: 44px;
  align-items: stretch;
  border-bottom: 1px solid var(--line);
  background: var(--raised);
}
.column {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 1px;
  cursor: default;
}
.column button {
  padding: 0;
  border: 0;
  background: none;
  font-weight: 600;
  cursor: pointer;
}
.column .more {
  padding: 0 2px;
  color: var(--faint-ink);
}
.edit {
  width: 100%;
  padding: 0 2px;
  border: 1px solid var(--accent);
  background: var(--raised);
  text-align: right;
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
