import { describe, expect, it } from 'vitest'
import { pressureOf } from './pen'

const mouse = (x: number, at: number) => ({
  pointerType: 'mouse',
  pressure: 0.5,
  clientX: x,
  clientY: 0,
  timeStamp: at,
})

describe('pressure', () => {
  it('is the pen’s own, within 0 and 1', () => {
    expect(pressureOf({ ...mouse(0, 0), pointerType: 'pen', pressure: 0.3 })).toBe(0.3)
    expect(pressureOf({ ...mouse(0, 0), pointerType: 'pen', pressure: 7 })).toBe(1)
  })

  it('of a mouse is full, unless it stands in for a pen', () => {
    expect(pressureOf(mouse(0, 0))).toBe(1)
    expect(pressureOf(mouse(0, 0), null, true)).toBe(0.4)
  })

  it('is less the faster the stroke, and does not jump', () => {
    const before = { x: 0, y: 0, at: 0, pressure: 0.8 }
    const slow = pressureOf(mouse(1, 10), before, true)
    const fast = pressureOf(mouse(100, 10), before, true)
    expect(slow).toBeGreaterThan(fast)
    expect(fast).toBeGreaterThan(0.8 * 0.6)
  })
})
