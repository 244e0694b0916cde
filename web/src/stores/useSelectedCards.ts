/** The selected cards, for whoever shows something about them; and cards that a trace leads through. */
import { shallowRef } from 'vue'

const cards = shallowRef<string[]>([])
const traced = shallowRef<ReadonlySet<string>>(new Set())

export function useChosen() {
  return { cards, traced }
}
