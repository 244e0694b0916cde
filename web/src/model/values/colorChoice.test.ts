import { expect, it } from 'vitest'
import { byValues, choiceOf, keyOf } from './colorChoice'

it('writes a choice as a key and reads it again', () => {
  for (const choice of [
    byValues('point', 'heat'),
    byValues('face', 'normal', 'y'),
    { how: 'checker', kind: 'corner', name: '', part: '' } as const,
  ])
    expect(choiceOf(keyOf(choice))).toEqual(choice)
})

it('has an empty key for no colour', () => {
  expect(keyOf(null)).toBe('')
  expect(choiceOf('')).toBeNull()
})
