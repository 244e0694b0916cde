import { expect, it } from 'vitest'
import { ref } from 'vue'
import { ROW, useVirtualRows } from './useVirtualRows'

it('shows the rows that are in sight', () => {
  const seen = useVirtualRows(ref(1000), ref(260))
  expect([seen.first.value, seen.last.value, seen.offset.value]).toEqual([0, 11, 0])
  seen.scrolled.value = 100 * ROW + 5
  expect([seen.first.value, seen.offset.value]).toEqual([100, 100 * ROW])
  seen.scrolled.value = seen.tall.value - 260
  expect(seen.last.value).toBe(1000)
})

it('brings a row into the middle', () => {
  const seen = useVirtualRows(ref(1000), ref(260))
  seen.scrolled.value = seen.placeOf(500)
  expect(seen.first.value).toBe(495)
  expect(seen.placeOf(0)).toBe(0)
})

it('has nothing to scroll where all is in sight', () => {
  const seen = useVirtualRows(ref(3), ref(260))
  seen.scrolled.value = 999
  expect([seen.first.value, seen.last.value]).toEqual([0, 3])
})
