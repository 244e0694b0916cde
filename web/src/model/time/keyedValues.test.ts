import { expect, test } from 'vitest'
import { isKeyed, keysInWords } from './keyedValues'

const RISE = {
  keys: [
    { frame: 0, value: 1 },
    { frame: 10, value: 2 },
  ],
  after: 'swing',
}

test('keys are told from other values', () => {
  expect(isKeyed(RISE)).toBe(true)
  for (const other of [
    3,
    null,
    [1, 2],
    { formula: 'frame' },
    { keys: 4 },
    { keys: [[0, 0, 0]] },
    { keys: [], reach: 1 },
  ])
    expect(isKeyed(other)).toBe(false)
})

test('keys are told in words', () => {
  expect(keysInWords(RISE)).toBe('2 keys, frames 0 to 10')
  expect(keysInWords({ keys: [{ frame: 7, value: true }] })).toBe('1 key at frame 7')
})
