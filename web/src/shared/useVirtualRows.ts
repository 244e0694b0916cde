/** Which rows of a long list are in sight. Browsers cap the height of a page, so very long lists scroll faster. */
import { computed, ref, type Ref } from 'vue'

export const ROW = 26
const TALLEST = 8_000_000

export function useVirtualRows(total: Ref<number>, height: Ref<number>) {
  const scrolled = ref(0)
  const inSight = computed(() => Math.ceil(height.value / ROW) + 1)
  const tall = computed(() => Math.min(total.value * ROW, TALLEST))
  const first = computed(() => {
    const most = Math.max(total.value - inSight.value + 1, 0)
    const room = tall.value - height.value
    if (room <= 0) return 0
    if (tall.value < TALLEST) return Math.min(Math.floor(scrolled.value / ROW), most)
    return Math.min(Math.round((scrolled.value / room) * most), most)
  })
  return {
    scrolled,
    tall,
    first,
    last: computed(() => Math.min(first.value + inSight.value, total.value)),
    /** Where the first row in sight begins. */
    offset: computed(() => (tall.value < TALLEST ? first.value * ROW : scrolled.value)),
    /** The scroll position that brings a row into sight. */
    placeOf: (row: number) =>
      tall.value < TALLEST
        ? Math.max(0, row * ROW - height.value / 2)
        : (row / Math.max(total.value - inSight.value, 1)) * (tall.value - height.value),
  }
}
