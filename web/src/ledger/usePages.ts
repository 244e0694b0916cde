/** Rows of a long table, fetched a page at a time as they come into sight. */
import { shallowRef } from 'vue'

export interface Page<Row> {
  rows: Row[]
  total: number
}

export const PAGE = 200
const KEPT = 30

/** `fetch` brings one page. After `reset` everything is fetched anew; old answers are passed over. */
export function usePages<Row>(fetch: (offset: number, limit: number) => Promise<Page<Row>>) {
  const total = shallowRef(0)
  const pages = shallowRef(new Map<number, Row[]>())
  const trouble = shallowRef('')
  const asked = new Set<number>()
  let age = 0

  async function load(page: number) {
    if (asked.has(page)) return
    asked.add(page)
    const mine = age
    try {
      const answer = await fetch(page * PAGE, PAGE)
      if (mine !== age) return
      total.value = answer.total
      const next = new Map(pages.value).set(page, answer.rows)
      while (next.size > KEPT) {
        const oldest = next.keys().next().value as number
        next.delete(oldest)
        asked.delete(oldest)
      }
      pages.value = next
      trouble.value = ''
    } catch (error) {
      if (mine !== age) return
      asked.delete(page)
      trouble.value = error instanceof Error ? error.message : String(error)
    }
  }

  return {
    total,
    trouble,

    /** The row at a place, or undefined while it is on its way. */
    row: (index: number): Row | undefined => pages.value.get(Math.floor(index / PAGE))?.[index % PAGE],

    /** See to it that rows `first` to `last` are there or on their way. */
    want(first: number, last: number) {
      for (let page = Math.floor(first / PAGE); page <= Math.floor(last / PAGE); page++) void load(page)
    },

    reset() {
      age += 1
      asked.clear()
      pages.value = new Map()
      void load(0)
    },
  }
}
