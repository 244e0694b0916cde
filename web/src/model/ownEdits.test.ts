import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { ownEdits } from './ownEdits'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

it('knows for a minute what was changed, and what it led to', () => {
  const own = ownEdits()
  own.made({ key: 'a', label: 'turn', patch: [{ path: '/dials/h' }] })
  own.kept('a', 3)
  own.kept('a', 9)
  expect(own.all().map(({ key, paths, revision }) => [key, paths, revision])).toEqual([['a', ['/dials/h'], 3]])
  vi.advanceTimersByTime(61_000)
  own.made({ key: 'b', label: 'turn', patch: [] })
  expect(own.all().map(({ key, revision }) => [key, revision])).toEqual([['b', null]])
})
