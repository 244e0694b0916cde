<script setup lang="ts">
/**
 * One row per element of the node that is looked at. Own rows, because meshes have millions of elements: the virtual table
 * of Element Plus lays all rows out at full height, which browsers cap; in Chromium its last row is number 1,290,556.
 */
import TextField from '../shared/controls/TextField.vue'
import { useElementSize, watchDebounced } from '@vueuse/core'
import { ElButton, ElMessage } from 'element-plus'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { answerTo, type Kind } from '../api/results'
import { count } from '../shared/numbers'
import { useEvaluation } from '../stores/useEvaluation'
import { useGraph } from '../stores/useGraph'
import { useSelection } from '../stores/useSelection'
import { useWhy } from '../stores/insight/useWhy'
import ColumnHead from './ColumnHead.vue'
import HistogramCell from './HistogramCell.vue'
import LedgerBar from './LedgerBar.vue'
import { useCellEditing } from './useCellEditing'
import { useColumns } from './useColumns'
import { toCsv, useEditing } from './useEditing'
import { shown, useRows, type Cell, type Row } from './useRows'
import { useStatistics } from './useStatistics'
import { useVirtualRows } from '../shared/useVirtualRows'

/** Loaded when charts are first looked at. */
const ChartsPane = defineAsyncComponent(() => import('./charts/ChartsPane.vue'))
defineProps<{ script?: string | null }>()
defineEmits<{ script: [node: string] }>()

const { looks, shownNode } = useEvaluation()
const selection = useSelection()
const why = useWhy()
const graph = useGraph()
/** Coming back from the script, it lists what was picked there. */
const kind = ref<Kind>(selection.kind.value)
const typed = ref('')
const { sort, descending, where, pages, cells, order, copied } = useRows(kind)
const { edited, begin, settle } = useCellEditing(kind)
const counts = computed(
  () => looks.value?.answers.map((answer) => answerTo('summary', answer)).find((answer) => answer)?.counts ?? {},
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

const canPick = computed(() => ['point', 'edge', 'corner', 'face'].includes(kind.value))
const editing = useEditing()

function onColumn(cell: Cell, command: string) {
  if (command === 'rename') void editing.rename(kind.value, cell.name)
  else if (command === 'remove') editing.remove(kind.value, cell.name)
  else if (command === 'hide') chosenColumns.hide(cell.name)
  else if (command === 'left') chosenColumns.move(cell.name, -1)
  else if (command === 'right') chosenColumns.move(cell.name, 1)
  else editing.convert(kind.value, cell.name, command)
}

const chosenColumns = useColumns(
  cells,
  () => kind.value,
  () => graph.state.value?.id ?? '',
)
const { listed, hidden } = chosenColumns
const told = ref(false)
const charted = ref(false)
const { of: spreadOf } = useStatistics(told, kind, where)

async function copy() {
  const rows = await copied(listed.value)
  await navigator.clipboard.writeText(toCsv(['index', ...listed.value.map((cell) => cell.title)], rows))
  ElMessage({ type: 'success', message: `${count(rows.length)} rows are in the clipboard as CSV.` })
}

/** The row is picked, too, so that one sees whose value it is. */
function askWhy(row: Row, cell: Cell) {
  if (canPick.value) selection.pick(row.index, false, 'ledger')
  why.begin(kind.value, row.index, cell.name)
}

function pick(event: MouseEvent | KeyboardEvent, row: Row | undefined) {
  if (row && canPick.value) selection.pick(row.index, event.shiftKey || event.ctrlKey || event.metaKey, 'ledger')
}
</script>

<template>
  <section class="ledger" aria-label="Ledger" data-help="looking.html#in-the-ledger">
    <LedgerBar
      v-model:kind="kind"
      v-model:where="typed"
      v-model:told="told"
      v-model:charted="charted"
      :counts="counts"
      :total="pages.total.value"
      :trouble="pages.trouble.value"
      :hides="hidden.length > 0"
      :script="script"
      @script="$emit('script', $event)"
      @add="editing.add(kind)"
      @all="chosenColumns.showAll()"
      @copy="copy"
    />
    <ChartsPane v-if="charted" :kind="kind" :cells="listed" @where="((typed = $event), (charted = false))" />
    <div
      v-show="!charted"
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
            <ElButton text @click="order('index')"
              >index{{ sort === 'index' ? (descending ? ' ↓' : ' ↑') : '' }}</ElButton
            >
          </div>
          <ColumnHead
            v-for="cell in listed"
            :key="cell.key"
            :cell="cell"
            :direction="sort === cell.sort ? (descending ? 'descending' : 'ascending') : 'none'"
            @order="order(cell.sort)"
            @act="onColumn(cell, $event)"
          />
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
              <TextField
                v-if="edited?.row === row.index && edited.key === cell.key"
                class="edit"
                :value="shown(row, cell)"
                :label="`${cell.title} of ${kind} ${row.index}`"
                @click.stop
                @keydown.stop
                @settle="settle(row, cell, $event)"
                @blur="edited = null"
              />
              <template v-else
                ><ElButton
                  text
                  class="ask"
                  tabindex="-1"
                  :title="`Why has ${kind} ${row.index} this ${cell.name}?`"
                  :aria-label="`Why has ${kind} ${row.index} this ${cell.name}?`"
                  :data-test="`why-${row.index}-${cell.key}`"
                  @click.stop="askWhy(row, cell)"
                  @dblclick.stop
                />{{ shown(row, cell) }}</template
              >
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
.column .el-button {
  padding: 0;
  border: 0;
  background: none;
  font-weight: 600;
  cursor: pointer;
}
.edit {
  --el-component-size-small: 24px;
}
.edit :deep(input) {
  text-align: right;
}
.filler {
  grid-column: 1 / -1;
}
.cell {
  position: relative;
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
.ask.el-button {
  position: absolute;
  top: 3px;
  left: 2px;
  width: 20px;
  height: 20px;
  padding: 0;
  color: var(--accent);
  background: var(--raised);
  font-weight: 700;
  opacity: 0;
}
.ask.el-button::before {
  content: '?';
}
.cell:hover > .ask,
.ask:focus-visible {
  opacity: 1;
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
