/** The selected elements, shared by view and ledger: one kind at a time, by number. */
import { createGlobalState } from '@vueuse/core'
import { ref, shallowRef, watch } from 'vue'
import type { Kind } from '../api/results'

export const useSelection = createGlobalState(() => {
  const kind = ref<Kind>('face')
  const chosen = shallowRef<ReadonlySet<number>>(new Set())
  /** The element that was touched last; the ledger scrolls to it. */
  const latest = ref<{ index: number; from: 'view' | 'ledger' } | null>(null)

  watch(kind, () => {
    chosen.value = new Set()
    latest.value = null
  })

  return {
    kind,
    chosen,
    latest,

    /** Select one element, or with `add` put it in or take it out. */
    pick(index: number, add: boolean, from: 'view' | 'ledger'): void {
      const next = new Set(add ? chosen.value : [])
      if (add && next.has(index)) next.delete(index)
      else next.add(index)
      chosen.value = next
      latest.value = { index, from }
    },

    /** Select these elements, or with `add` also those that are selected. */
    choose(elements: number[], add: boolean): void {
      chosen.value = new Set(add ? [...chosen.value, ...elements] : elements)
      latest.value = elements.length ? { index: elements[0]!, from: 'view' } : null
    },

    clear(): void {
      chosen.value = new Set()
      latest.value = null
    },
  }
})
