import { expect, it } from 'vitest'
import { fromText, stepped, toText } from './formula'

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
