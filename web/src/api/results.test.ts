import { expect, it } from 'vitest'
import { answerTo, KINDS, troubleOf, type LookAnswer } from './results'

const place: LookAnswer = { what: 'place', matrix: [1] }
const failed: LookAnswer = { what: 'error', error: { code: 'x', message: 'y' } }

it('gives the answer that was asked for, and none where there is none or it failed', () => {
  expect(answerTo('place', place)?.matrix).toEqual([1])
  expect(answerTo('mesh', place)).toBe(null)
  expect(answerTo('place', failed)).toBe(null)
  expect(answerTo('place', { what: 'missing', missing: true })).toBe(null)
  expect(answerTo('place', undefined)).toBe(null)
})

it('says why a look could not be taken', () => {
  expect([troubleOf(failed), troubleOf(place), troubleOf(null)]).toEqual(['y', '', ''])
})

it('knows every kind of element once', () => {
  expect(new Set(KINDS).size).toBe(7)
})
