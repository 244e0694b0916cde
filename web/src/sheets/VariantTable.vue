<script setup lang="ts">
/** The variants as a table: a click on a title sorts, one on a row chooses. */
import { useElementSize } from '@vueuse/core'
import { ElAutoResizer, ElTableV2, TableV2SortOrder, type Column as Head, type SortBy } from 'element-plus'
import { computed, h, ref } from 'vue'
import { headed, written, type Variant } from '../model/sheets'
import { useSheets } from './useSheets'

const sheets = useSheets()
const host = ref<HTMLElement>()
const { width } = useElementSize(host)
const NARROW = 84
const heads = computed<Head<Variant>[]>(() => {
  const columns = sheets.columns.value
  const wide = Math.max(Math.floor((width.value - 8) / Math.max(columns.length, 1)), NARROW)
  return columns.map((column) => ({
    key: column.key,
    dataKey: column.key,
    title: headed(column),
    width: wide,
    sortable: true,
    align: column.isNumber ? 'right' : 'left',
    cellRenderer: ({ rowData }: { rowData: Variant }) => {
      const text =
        rowData.state === 'failed' && column.key === 'number' ? `! ${rowData.number}` : written(column.of(rowData))
      return column.isNumber ? (text as never) : h('span', { class: 'cut', title: text }, text)
    },
  }))
})
const sort = computed<SortBy>(() => ({
  key: sheets.sort.value,
  order: sheets.descending.value ? TableV2SortOrder.DESC : TableV2SortOrder.ASC,
}))
function sortBy({ key, order }: SortBy) {
  sheets.sort.value = String(key)
  sheets.descending.value = order === TableV2SortOrder.DESC
}
const classOf = ({ rowData }: { rowData: Variant }) =>
  [rowData.state, sheets.chosen.value.has(rowData.number) ? 'chosen' : ''].join(' ')
const events = {
  onClick: ({ rowData, event }: { rowData: Variant; event: Event }) => {
    const { shiftKey, ctrlKey, metaKey } = event as MouseEvent
    sheets.choose(rowData.number, shiftKey || ctrlKey || metaKey)
  },
}
</script>

<template>
  <div ref="host" class="table" data-test="variant-table">
    <ElAutoResizer v-slot="size">
      <ElTableV2
        :columns="heads"
        :data="sheets.shown.value"
        :width="size.width"
        :height="size.height"
        :row-height="28"
        :header-height="54"
        :sort-by="sort"
        :row-class="classOf"
        :row-event-handlers="events as never"
        row-key="number"
        fixed
        @column-sort="sortBy"
      />
    </ElAutoResizer>
  </div>
</template>

<style scoped>
.table {
  min-width: 0;
  min-height: 0;
  overflow: hidden;
  font-size: 12px;
}
.table :deep(.chosen) {
  background: var(--accent-wash);
}
.table :deep(.failed) {
  color: var(--bad);
}
.table :deep(.open) {
  color: var(--faint-ink);
}
.table :deep(.cut) {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.table :deep(.el-table-v2__header-cell-text) {
  line-height: 1.2;
  white-space: normal;
}
.table :deep(.el-table-v2__row-cell),
.table :deep(.el-table-v2__header-cell) {
  padding: 0 6px;
  font-variant-numeric: tabular-nums;
}
</style>
