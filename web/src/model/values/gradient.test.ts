import { describe, expect, it } from 'vitest'
import { addStop, colorAt, css, fromHex, moveStop, toHex, type Stop } from './gradient'

const TWO: Stop[] = [
  [0, 0, 0, 0, 1],
  [1, 1, 0.5, 0, 0],
]

describe('gradients', () => {
  it('blends linearly and goes on beyond its ends', () => {
    expect(colorAt(TWO, 0.5)).toEqual([0.5, 0.25, 0, 0.5])
    expect(colorAt(TWO, -1)).toEqual([0, 0, 0, 1])
    expect(colorAt(TWO, 2)).toEqual([1, 0.5, 0, 0])
    expect(colorAt([[0.3, 1, 1, 1, 1]], 0.9)).toEqual([1, 1, 1, 1])
  })

  it('turns colours into sRGB and back', () => {
    expect(toHex([0.21404, 1, 0])).toBe('#7fff00')
    expect(toHex(fromHex('#3c8dd9'))).toBe('#3c8dd9')
  })

  it('keeps stops in order when one is moved', () => {
    expect(moveStop(TWO, 0, 0.25)[0]![0]).toBe(0.25)
    expect(moveStop(TWO, 1, 3)[1]![0]).toBe(1)
    expect(
      moveStop(
        [
          [0, 0, 0, 0, 1],
          [0.5, 0, 0, 0, 1],
          [1, 0, 0, 0, 1],
        ],
        1,
        -2,
      )[1]![0],
    ).toBe(0)
  })

  it('adds a stop where it changes nothing', () => {
    const more = addStop(TWO, 0.25)
    expect(more.map((stop) => stop[0])).toEqual([0, 0.25, 1])
    expect(colorAt(more, 0.1)).toEqual(colorAt(TWO, 0.1))
    expect(css(more)).toContain('linear-gradient')
  })
})
