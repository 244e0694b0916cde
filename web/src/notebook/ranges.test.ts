import { describe, expect, it } from 'vitest'
import type { AttributeLook } from '../api/results'
import { rangeOf } from './ranges'

const look = (low: number[], high: number[]) => ({ low, high }) as AttributeLook
const wish = (part: string) => ({ kind: 'point' as const, name: 'heat', part })

describe('the range of several pictures', () => {
  it('holds all of them, part by part', () => {
    const looks = [look([0, -4], [1, 2]), look([-2, 0], [0.5, 9]), null]
    expect(rangeOf(looks, wish('x'))).toEqual([-2, 1])
    expect(rangeOf(looks, wish('y'))).toEqual([-4, 9])
    expect(rangeOf(looks, wish(''))).toEqual([-2, 1])
  })

  it('is left to each picture where it is not known for all', () => {
    expect(rangeOf([look([0], [1]), null], wish('x'))).toBeNull()
    expect(rangeOf([look([0], [1]), look([2], [3])], wish('length'))).toBeNull()
    expect(rangeOf([look([1], [1]), look([1], [1])], wish('x'))).toBeNull()
    expect(rangeOf([], null)).toBeNull()
  })
})
