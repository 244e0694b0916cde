import { expect, it, vi } from 'vitest'
import { memo } from './memo'

it('makes anew only for another key', () => {
  const kept = memo<object>()
  const make = vi.fn(() => ({}))
  const first = kept('a', make)
  expect(kept('a', make)).toBe(first)
  expect(kept('b', make)).not.toBe(first)
  expect(kept('a', make), 'one is kept, not all').not.toBe(first)
  expect(make).toHaveBeenCalledTimes(3)
})
