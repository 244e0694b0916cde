import { describe, expect, it } from 'vitest'
import { rangeOf, roundNumbers, rounded } from './plotScale'

describe('scales of curves', () => {
  it('have room around the numbers, and around one number', () => {
    expect(rangeOf([0, 10])).toEqual({ low: -1, high: 11 })
    expect(rangeOf([2])).toEqual({ low: 1, high: 3 })
    expect(rangeOf([])).toEqual({ low: 0, high: 1 })
  })

  it('have round numbers', () => {
    expect(roundNumbers({ low: -0.1, high: 1.1 }, 5)).toEqual([0, 0.5, 1])
    expect(roundNumbers({ low: 0, high: 100 }, 5)).toEqual([0, 20, 40, 60, 80, 100])
  })

  it('round to what a pixel can tell', () => {
    expect(rounded(1.23456, 0.01)).toBe(1.23)
    expect(rounded(1234.56, 3)).toBe(1235)
  })
})
