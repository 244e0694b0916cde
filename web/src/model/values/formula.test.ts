import { expect, it } from 'vitest'
import { fromText, shareOf, shareRange, shareValue, stepped, toText } from './formula'

it('tells numbers from formulas', () => {
  for (const [text, value] of [
    ['3', 3],
    [' -0.5 ', -0.5],
    ['1e-3', 0.001],
    ['.5', 0.5],
  ] as const)
    expect(fromText(text)).toBe(value)
  for (const text of ['height', '1 + 2', '', '1.2.3', '1e', 'Infinity'])
    expect(fromText(text)).toEqual({ formula: text })
})

it('shows what was stored', () => {
  expect(toText({ formula: 'a * 2' })).toBe('a * 2')
  expect(toText([1, 2])).toBe('(1, 2)')
  expect(toText(0.25)).toBe('0.25')
})

it('steps without binary noise and within limits', () => {
  expect(stepped(0.1, 2, 0.1)).toBe(0.3)
  expect(stepped(0.3, -10, 0.1, 0)).toBe(0)
  expect(stepped(9, 10, 1, 0, 12)).toBe(12)
})

it('knows a share of the size, and slides it', () => {
  expect(shareOf({ formula: '0.06 * extent' })).toBe(0.06)
  expect(shareOf({ formula: ' -1e-3*extent ' })).toBe(-0.001)
  for (const value of [0.06, { formula: 'extent' }, { formula: '0.1 * extent + 1' }, { formula: '0.1 * area' }])
    expect(shareOf(value)).toBeNull()
  expect(shareValue(0.1 + 0.2)).toEqual({ formula: '0.3 * extent' })
  expect(shareOf(shareValue(0.00005))).toBe(0.00005)
})

it('offers a share some times the usual one, whatever stands there', () => {
  expect(shareRange(0.06, 0.06, false)).toEqual([0, 0.5])
  expect(shareRange(0.2, 0.06, true)).toEqual([-0.5, 0.5])
  expect(shareRange(2, 0.06, false)).toEqual([0, 2])
  expect(shareRange(0, 0, true)).toEqual([-0.5, 0.5])
  expect(shareRange(0.00005, 0.00005, false)).toEqual([0, 0.0002])
})
