/** The selected cards, for whoever shows something about them; and cards that a trace leads through. */
import { createGlobalState } from '@vueuse/core'
import { shallowRef } from 'vue'

export const useSelectedCards = createGlobalState(() => {
  const cards = shallowRef<string[]>([])
  const traced = shallowRef<ReadonlySet<string>>(new Set())

  return { cards, traced }
})
