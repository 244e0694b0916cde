/** Rows of a long list that are in sight: all are as tall as each other but those that are open, which are measured. */
import { computed, ref, type Ref } from 'vue'

const OVER = 12

/** `tall(n)` is the height of row n in pixels; returns the rows to draw and where the first one begins. */
export function useWindow(count: Ref<number>, tall: (row: number) => number, height: Ref<number>) {
  const scrolled = ref(0)
  const starts = computed(() => {
    const made = new Float64Array(count.value + 1)
    for (let row = 0; row < count.value; row++) made[row + 1] = made[row]! + tall(row)
    return made
  })
  /** The row at a height. */
  function rowAt(y: number): number {
    let low = 0
    let high = count.value
    while (low < high) {
      const middle = (low + high) >> 1
      if (starts.value[middle + 1]! <= y) low = middle + 1
      else high = middle
    }
    return low
  }
  const first = computed(() => Math.max(rowAt(scrolled.value) - OVER, 0))
  const last = computed(() => Math.min(rowAt(scrolled.value + height.value) + OVER + 1, count.value))

  return { scrolled, starts, rowAt, first, last, total: computed(() => starts.value[count.value]!) }
}
