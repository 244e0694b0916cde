import { describe, expect, it } from 'vitest'
import {
  canHaveKeys,
  changedKeys,
  copiedKeys,
  heldAt,
  isKeyed,
  keysInWords,
  movedKeys,
  withKey,
  withoutKeys,
  type Keyed,
} from './keyedValues'

const keyed: Keyed = {
  keys: [
    { frame: 0, value: 1, way: 'straight' },
    { frame: 4, value: 2 },
    { frame: 10, value: 5 },
  ],
  after: 'swing',
}
const frames = (value: Keyed) => value.keys.map((key) => key.frame)

describe('values with keys', () => {
  it('are told from others', () => {
    expect(isKeyed(keyed)).toBe(true)
    expect(isKeyed({ keys: [1] })).toBe(false)
    expect(isKeyed({ keys: [], other: 1 })).toBe(false)
    expect(keysInWords(keyed)).toBe('3 keys, frames 0 to 10')
    expect(heldAt(keyed, 7)).toBe(2)
    expect(heldAt(keyed, -3)).toBe(1)
  })

  it('are numbers, flags, choices, vectors and places, and no formulas', () => {
    expect(canHaveKeys('number', 2)).toBe(true)
    expect(canHaveKeys('number', { formula: 'a' })).toBe(false)
    expect(canHaveKeys('vector', [1, 2, 3])).toBe(true)
    expect(canHaveKeys('places', [[1, 2, 3]])).toBe(true)
    expect(canHaveKeys('choice', 'one')).toBe(true)
    expect(canHaveKeys('where', 'top')).toBe(false)
  })

  it('get keys in order, and those that are there keep their way', () => {
    expect(withKey(keyed, 2, 9).keys[1]).toEqual({ frame: 2, value: 9, way: 'straight' })
    expect(withKey(keyed, 0, 9).keys[0]).toEqual({ frame: 0, value: 9, way: 'straight' })
    expect(withKey(keyed, 2, 9).after).toBe('swing')
    expect(frames(withKey(keyed, -1, 9))).toEqual([-1, 0, 4, 10])
  })

  it('lose keys, and are plain when none is left', () => {
    expect(frames(withoutKeys(keyed, [4]) as Keyed)).toEqual([0, 10])
    expect(withoutKeys(keyed, [0, 4, 10])).toBe(5)
  })

  it('have keys moved, copied and changed; one that is met gives way', () => {
    expect(frames(movedKeys(keyed, [0, 4], (frame) => frame + 6))).toEqual([6, 10])
    expect(movedKeys(keyed, [4], () => 10).keys.at(-1)!.value).toBe(2)
    expect(frames(copiedKeys(keyed, [0, 4], 20))).toEqual([0, 4, 10, 20, 24])
    expect(changedKeys(keyed, [4], (key) => ({ ...key, way: 'hold' })).keys[1]!.way).toBe('hold')
    expect(frames(keyed)).toEqual([0, 4, 10])
  })
})
