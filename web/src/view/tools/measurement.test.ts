import { expect, it } from 'vitest'
import { angle, far, measured } from './measurement'

it('measures distances in m and angles in degrees', () => {
  expect(far([1, 2, 2], [0, 0, 0])).toBe(3)
  expect(angle([1, 0, 0], [0, 0, 0], [0, 2, 0])).toBeCloseTo(90, 12)
  expect(angle([1, 0, 0], [0, 0, 0], [1, 1e-9, 0])).toBeCloseTo(0, 6)
  expect(measured([])).toContain('click a place')
  expect(
    measured([
      [0, 0, 0],
      [0, 3, 4],
    ]),
  ).toBe('5 m')
  expect(
    measured([
      [1, 0, 0],
      [0, 0, 0],
      [0, 0, 1],
    ]),
  ).toBe('1 m + 1 m, 90°')
})
