import { expect, it } from 'vitest'
import { isApart, pressureOf } from './usePaint'

it('takes the pressure of a pen and nothing of a mouse', () => {
  expect(pressureOf({ pointerType: 'pen', pressure: 0.3 })).toBe(0.3)
  expect(pressureOf({ pointerType: 'mouse', pressure: 0.5 })).toBe(1)
  expect(pressureOf({ pointerType: 'pen', pressure: 7 })).toBe(1)
})

it('keeps dabs a quarter of the radius apart', () => {
  expect(isApart([], [0, 0, 0], 1)).toBe(true)
  expect(isApart([[0, 0, 0, 1]], [0.2, 0, 0], 1)).toBe(false)
  expect(isApart([[0, 0, 0, 1]], [0.3, 0, 0], 1)).toBe(true)
})
