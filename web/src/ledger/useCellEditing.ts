/** One value edited where it stands: a double click begins, Enter or leaving the field keeps it, in a card of its own. */
import { ElMessage } from 'element-plus'
import { nextTick, ref, type Ref } from 'vue'
import type { Kind } from '../api/results'
import { aboutType } from '../stores/attributeTypes'
import { useGraph } from '../stores/useGraph'
import { readCell, useEditing } from './useEditing'
import { shown, type Cell, type Row } from './useRows'

const EDITED = ['point', 'edge', 'corner', 'face', 'curve']

export function useCellEditing(kind: Ref<Kind>) {
  const graph = useGraph()
  const editing = useEditing()
  const edited = ref<{ row: number; key: string } | null>(null)
  /** A double click on a value edits it, in a card of its own. */
  async function begin(event: MouseEvent, row: Row, cell: Cell) {
    if (cell.fixed || !EDITED.includes(kind.value) || !aboutType(cell.type).converts || graph.fixed.value) return
    edited.value = { row: row.index, key: cell.key }
    const host = event.currentTarget as HTMLElement
    await nextTick()
    host.querySelector('input')?.select()
  }

  async function settle(row: Row, cell: Cell, text: string) {
    if (!edited.value) return
    edited.value = null
    if (text === shown(row, cell)) return
    const part = readCell(text, cell.part >= 0 ? 'number' : aboutType(cell.type).shown)
    if (part === null)
      return ElMessage({
        type: 'error',
        message: `‘${text}’ does not fit ${cell.title}, which is a ${cell.part >= 0 ? 'number' : cell.type}.`,
      })
    const before = row.cells[cell.column]
    const value =
      cell.part >= 0 && Array.isArray(before) ? before.map((one: unknown, n) => (n === cell.part ? part : one)) : part
    await editing.edit(kind.value, cell.name, row.index, value)
  }

  return { edited, begin, settle }
}
