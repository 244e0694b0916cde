import { expect, test } from 'vitest'
import { lengthInWords, metresPerPixel, roundLength, scaleBar } from './scaleBar'

test('lengths are 1, 2 or 5 of something', () => {
  expect([0.9, 1, 1.99, 2, 4.9, 5, 0.037].map(roundLength).map((one) => Number(one.toPrecision(3)))).toEqual([
    0.5, 1, 1, 2, 2, 5, 0.02,
  ])
})

test('lengths are said in the unit that reads best', () => {
  expect([2000, 5, 0.05, 0.002, 0.0005].map(lengthInWords)).toEqual(['2 km', '5 m', '5 cm', '2 mm', '0.5 mm'])
})

test('the bar is as long as it says', () => {
  const per = metresPerPixel(2, 38, 600)
  const bar = scaleBar(per, 100)
  expect(bar.pixels).toBeLessThanOrEqual(100)
  expect(bar.pixels * per).toBeCloseTo(bar.metres, 12)
  // Half of 38 degrees at 2 m: a picture 600 pixels tall shows 2 · 2 · tan 19° = 1.377 m.
  expect(per * 600).toBeCloseTo(1.3773, 4)
})
