import { expect, it, vi } from 'vitest'
import { isFirstVisit } from './firstVisit'

it('is the first visit once', () => {
  const kept = new Map<string, string>()
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
  })
  expect(isFirstVisit()).toBe(true)
  expect(isFirstVisit()).toBe(false)
  vi.unstubAllGlobals()
})
