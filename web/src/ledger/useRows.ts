/** The rows of the ledger: asked for page by page, sorted by a column, filtered by a formula, and copied as CSV. */
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import { api } from '../api/client'
import { answerTo, troubleOf, type Kind, type LookQuery, type Rows } from '../api/results'
import { aboutType, lettersOf } from '../stores/attributeTypes'
import { short } from '../shared/numbers'
import { plainText } from '../shared/plainText'
import { useEvaluation } from '../stores/useEvaluation'
import { useGraph } from '../stores/useGraph'
import { usePages } from './usePages'

export interface Row {
  index: number
  cells: unknown[]
}

/** A column as it is shown: a vector has one for each component. */
export interface Cell {
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

const MOST_COPIED = 20_000
const COPIED_AT_ONCE = 2000

/** What a cell shows of its value. */
export function shown(row: Row, cell: Cell): string {
  const value = row.cells[cell.column]
  const part: unknown = cell.part >= 0 && Array.isArray(value) ? value[cell.part] : value
  if (typeof part === 'number') return aboutType(cell.type).shown === 'integer' ? String(part) : short(part)
  if (typeof part === 'boolean') return part ? 'yes' : '·'
  return Array.isArray(part)
    ? `[${part.length > 6 ? `${part.slice(0, 6).join(', ')}, …` : part.join(', ')}]`
    : plainText(part)
}

export function useRows(kind: Ref<Kind>) {
  const { shownNode } = useEvaluation()
  const graph = useGraph()
  const sort = ref('index')
  const descending = ref(false)
  const where = ref('')
  const columns = shallowRef<Rows['columns']>([])

  /** Another graph has other columns: none are shown until its own are there. */
  watch(
    () => graph.state.value?.id,
    () => (columns.value = []),
  )

  async function ask(offset: number, limit: number): Promise<Rows | null> {
    if (!shownNode.value || !graph.state.value) return null
    const query: LookQuery = {
      what: 'rows',
      kind: kind.value,
      offset,
      limit,
      sort: sort.value,
      descending: descending.value,
      where: where.value,
    }
    const [answer] = (await api.looks(graph.state.value.id, shownNode.value, [query], graph.basis())).looks
    if (troubleOf(answer)) throw new Error(troubleOf(answer))
    return answerTo('rows', answer)
  }

  const pages = usePages<Row>(async (offset, limit) => {
    const answer = await ask(offset, limit)
    if (!answer?.columns) return { rows: [], total: 0 }
    columns.value = answer.columns
    return { rows: answer.rows.map((cells, i) => ({ index: answer.index[i]!, cells })), total: answer.total }
  })

  /** Vectors get a column per component. */
  const cells = computed<Cell[]>(() =>
    columns.value.flatMap((column, number) => {
      const letters = lettersOf(column.name, column.type)
      const own = { type: column.type, unit: column.unit, column: number, name: column.name, fixed: column.built_in }
      if (!letters.length) return [{ ...own, key: column.name, title: column.name, sort: column.name, part: -1 }]
      return letters.map((letter, part) => ({
        ...own,
        part,
        key: `${column.name}.${part}`,
        title: `${column.name}.${letter}`,
        sort: `${column.name}.${part}`,
      }))
    }),
  )

  return {
    sort,
    descending,
    where,
    pages,
    cells,

    /** Sort by a column, or turn its order round. */
    order(column: string): void {
      if (sort.value === column) descending.value = !descending.value
      else [sort.value, descending.value] = [column, false]
    },

    /** All listed rows, as far as they fit the clipboard: the element's number, and what each cell holds. */
    async copied(listed: Cell[]): Promise<unknown[][]> {
      const rows: unknown[][] = []
      for (let offset = 0; offset < Math.min(pages.total.value, MOST_COPIED); offset += COPIED_AT_ONCE) {
        const answer = await ask(offset, COPIED_AT_ONCE)
        answer?.rows.forEach((row, n) =>
          rows.push([
            answer.index[n],
            ...listed.map((cell) => (cell.part >= 0 ? (row[cell.column] as unknown[])[cell.part] : row[cell.column])),
          ]),
        )
      }
      return rows.slice(0, MOST_COPIED)
    },
  }
}
