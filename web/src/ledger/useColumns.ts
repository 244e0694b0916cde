/** Which columns the ledger shows, and in which order: chosen and moved by hand, by kind and name. */
import { computed, ref, type ComputedRef } from 'vue'
import type { Kind } from '../api/results'

export interface Column {
  name: string
  key: string
}

export function useColumns<Cell extends Column>(cells: ComputedRef<Cell[]>, kind: () => Kind, graph: () => string) {
  const away = ref<string[]>([])
  /** What is chosen belongs to a graph and a kind of it. */
  const here = () => `${graph()}/${kind()}`
  const keyOf = (name: string) => `${here()}/${name}`
  const hidden = computed(() => away.value.filter((key) => key.startsWith(`${graph()}/`)))
  /** Names in the order they were put in; others follow as they come. */
  const order = ref<Record<string, string[]>>({})
  const names = computed(() => {
    const all = [...new Set(cells.value.map((cell) => cell.name))]
    const first = (order.value[here()] ?? []).filter((name) => all.includes(name))
    return [...first, ...all.filter((name) => !first.includes(name))]
  })
  const listed = computed(() =>
    names.value
      .filter((name) => !away.value.includes(keyOf(name)))
      .flatMap((name) => cells.value.filter((cell) => cell.name === name)),
  )

  return {
    listed,
    hidden,
    hide: (name: string) => (away.value = [...away.value, keyOf(name)]),
    showAll: () => (away.value = away.value.filter((key) => !hidden.value.includes(key))),
    /** Put a column one place to the left (-1) or right (1) among those that are seen. */
    move(name: string, way: -1 | 1): void {
      const seen = [...new Set(listed.value.map((cell) => cell.name))]
      const at = seen.indexOf(name)
      const to = at + way
      if (at < 0 || to < 0 || to >= seen.length) return
      seen.splice(to, 0, ...seen.splice(at, 1))
      order.value = { ...order.value, [here()]: seen }
    },
  }
}
