import { expect, it } from 'vitest'
import { nextTick, ref } from 'vue'
import { PAGE, usePages } from './usePages'
import { ROW, useVirtualRows } from '../shared/useVirtualRows'

it('fetches pages as they come into sight, once', async () => {
  const asked: number[] = []
  const pages = usePages<number>((offset, limit) => {
    asked.push(offset)
    return Promise.resolve({ rows: Array.from({ length: limit }, (_, i) => offset + i), total: 1000 })
  })
  pages.reset()
  pages.want(PAGE - 1, PAGE + 5)
  await nextTick()
  await nextTick()
  expect(asked).toEqual([0, PAGE])
  expect(pages.row(PAGE + 3)).toBe(PAGE + 3)
  expect(pages.row(3 * PAGE)).toBeUndefined()
})

it('passes over answers to older questions', async () => {
  const answers: ((page: { rows: string[]; total: number }) => void)[] = []
  const pages = usePages<string>(() => new Promise((resolve) => answers.push(resolve)))
  pages.reset()
  pages.reset()
  answers[1]!({ rows: ['new'], total: 1 })
  answers[0]!({ rows: ['old'], total: 1 })
  await new Promise((wake) => setTimeout(wake))
  expect(pages.row(0)).toBe('new')
})

it('reaches the last row of ten million', () => {
  const total = ref(10_000_000)
  const seen = useVirtualRows(total, ref(260))
  seen.scrolled.value = seen.tall.value - 260
  expect(seen.last.value).toBe(10_000_000)
  seen.scrolled.value = seen.placeOf(5_000_000)
  expect(Math.abs(seen.first.value - 5_000_000)).toBeLessThan(20)
  total.value = 3
  seen.scrolled.value = 0
  expect([seen.first.value, seen.last.value, seen.tall.value]).toEqual([0, 3, 3 * ROW])
})
