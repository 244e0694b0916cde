import { describe, expect, it } from 'vitest'
import type { LiveBlock } from '../api/results'
import { partAt, shownOf, stepWords } from './live'

const block = (more: Partial<LiveBlock>): LiveBlock => ({ seen: [], lines: [], loops: [], marks: [], ...more })
const round = (number: number, text: string) => ({
  number,
  block: block({ lines: [[2, text]], seen: [[2, 5, 1, text, 'integer']] }),
})
const LOOP = block({
  lines: [[1, 'before']],
  seen: [
    [2, 1, 9, 'whole', 'number'],
    [2, 5, 1, 'outside', 'integer'],
  ],
  loops: [
    { place: [1, 1, 1], what: 'for', name: 'i', total: 300, rounds: [round(0, '7'), round(298, '8'), round(299, '9')] },
  ],
})

describe('rounds', () => {
  it('are shown one at a time, the last one first', () => {
    const shown = shownOf(LOOP, new Map())
    expect(shown.lines.get(2)).toBe('9')
    expect(shown.steppers).toEqual([
      { key: '1:1', line: 1, name: 'i', what: 'for', at: 2, kept: 3, round: 300, total: 300 },
    ])
    expect(stepWords(shown.steppers[0]!)).toBe('round 300 of 300')
  })

  it('are chosen by their key', () => {
    expect(shownOf(LOOP, new Map([['1:1', 0]])).lines.get(2)).toBe('7')
    expect(shownOf(LOOP, new Map([['1:1', 99]])).lines.get(2)).toBe('9')
  })

  it('of loops in loops hang on the round outside', () => {
    const inner = (text: string) =>
      block({ loops: [{ place: [2, 3, 1], what: 'while', name: '', total: 1, rounds: [round(0, text)] }] })
    const nested = block({
      loops: [
        {
          place: [1, 1, 1],
          what: 'for',
          name: 'i',
          total: 2,
          rounds: [
            { number: 0, block: inner('a') },
            { number: 1, block: inner('b') },
          ],
        },
      ],
    })
    expect(shownOf(nested, new Map([['1:1', 0]])).lines.get(2)).toBe('a')
    expect(shownOf(nested, new Map()).steppers.map((one) => one.key)).toEqual(['1:1', '1:1/2:3'])
  })

  it('of a function that calls itself are stepped through once', () => {
    const call = (inside: LiveBlock): LiveBlock['loops'] => [
      { place: [1, 1, 1], what: 'call', name: 'f', total: 1, rounds: [{ number: 0, block: inside }] },
    ]
    const shown = shownOf(block({ loops: call(block({ loops: call(block({})) })) }), new Map())
    expect(shown.steppers).toHaveLength(1)
    expect(stepWords(shown.steppers[0]!)).toBe('f: call 1 of 1')
  })
})

describe('the part at a place', () => {
  const { parts } = shownOf(LOOP, new Map())

  it('is the smallest one, of the round that is shown', () => {
    expect(partAt(parts, 2, 5)?.text).toBe('9')
    expect(partAt(parts, 2, 4)?.text).toBe('whole')
  })

  it('is none beside the text', () => {
    expect(partAt(parts, 2, 10)).toBeNull()
    expect(partAt(parts, 3, 1)).toBeNull()
  })
})
