import { expect, it } from 'vitest'
import { isError, KINDS } from './results'

it('tells a look that failed from one that did not', () => {
  expect(isError({ error: { code: 'x', message: 'y' } })).toBe(true)
  expect(isError({ counts: {} })).toBe(false)
  expect(isError(null)).toBe(false)
  expect(isError('error')).toBe(false)
})

it('knows every kind of element once', () => {
  expect(new Set(KINDS).size).toBe(7)
})
