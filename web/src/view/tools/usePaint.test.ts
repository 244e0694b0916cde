import { describe, expect, it } from 'vitest'
import { pressureOf, type PenMoment } from './pen'
import { isApart, radiusOf } from './usePaint'

const event = (more: object) => ({ pointerType: 'mouse', pressure: 0.5, clientX: 0, clientY: 0, timeStamp: 0, ...more })

describe('pressure', () => {
  it('is the pen’s own, and full for a mouse', () => {
    expect(pressureOf(event({ pointerType: 'pen', pressure: 0.3 }))).toBe(0.3)
    expect(pressureOf(event({ pointerType: 'pen', pressure: 7 }))).toBe(1)
    expect(pressureOf(event({}))).toBe(1)
  })

  it('of a real pen counts even while one is simulated', () => {
    expect(pressureOf(event({ pointerType: 'pen', pressure: 0.8 }), null, true)).toBe(0.8)
  })

  it('of a simulated pen falls with speed and does not jump', () => {
    const before: PenMoment = { x: 0, y: 0, at: 0, pressure: 0.5 }
    const slow = pressureOf(event({ clientX: 2, timeStamp: 16 }), before, true)
    const fast = pressureOf(event({ clientX: 80, timeStamp: 16 }), before, true)
    expect(slow).toBeGreaterThan(0.5)
    expect(fast).toBeLessThan(0.5)
    expect(fast).toBeGreaterThan(0.3)
    let last = before
    for (let n = 1; n < 20; n++)
      last = {
        x: n * 200,
        y: 0,
        at: n * 10,
        pressure: pressureOf(event({ clientX: n * 200, timeStamp: n * 10 }), last, true),
      }
    expect(last.pressure).toBeCloseTo(0.15, 2)
  })
})

it('has a brush in metres, or as a share of the extent', () => {
  const usual = { formula: '0.03 * extent' }
  expect(radiusOf(0.2, usual, 5)).toBe(0.2)
  expect(radiusOf({ formula: '0.1 * extent' }, usual, 5)).toBeCloseTo(0.5, 12)
  expect(radiusOf({ formula: 'brush_size' }, usual, 5)).toBeCloseTo(0.15, 12)
})

it('keeps dabs that are a quarter of the brush apart', () => {
  expect(isApart([], [0, 0, 0], 1)).toBe(true)
  expect(isApart([[0, 0, 0, 1]], [0.2, 0, 0], 1)).toBe(false)
  expect(isApart([[0, 0, 0, 1]], [0.3, 0, 0], 1)).toBe(true)
})
