import { expect, test } from 'vitest'
import { ref } from 'vue'
import { useWindow } from './useWindow'

test('only rows in sight are drawn, wherever one scrolls to', () => {
  const { scrolled, first, last, total, rowAt } = useWindow(ref(10_000), () => 22, ref(440))
  expect([first.value, last.value, total.value]).toEqual([0, 33, 220_000])
  scrolled.value = 22 * 5000
  expect([first.value, last.value]).toEqual([4988, 5033])
  scrolled.value = 22 * 9990
  expect(last.value).toBe(10_000)
  expect(rowAt(45)).toBe(2)
})

test('an open row is as tall as it is', () => {
  const open = ref(3)
  const { starts, rowAt } = useWindow(ref(10), (row) => (row === open.value ? 300 : 20), ref(100))
  expect([starts.value[3], starts.value[4]]).toEqual([60, 360])
  expect(rowAt(200)).toBe(3)
  open.value = -1
  expect(starts.value[4]).toBe(80)
})

test('an empty list has nothing in sight', () => {
  const { first, last } = useWindow(ref(0), () => 22, ref(100))
  expect([first.value, last.value]).toEqual([0, 0])
})
