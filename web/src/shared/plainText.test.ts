import { expect, it } from 'vitest'
import { plainText } from './plainText'

it('writes plain values, and nothing of others', () => {
  expect([1.5, 'sand', true].map(plainText)).toEqual(['1.5', 'sand', 'true'])
  expect([null, undefined, {}, [1]].map(plainText)).toEqual(['', '', '', ''])
})
