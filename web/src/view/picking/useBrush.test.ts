import { expect, it } from 'vitest'
import { brushOutline } from './useBrush'
import { inside } from './within'

it('is round on a canvas that is not', () => {
  const outline = brushOutline([0.2, -0.1], 800, 400, 20)
  for (const [x, y] of outline) expect(Math.hypot(((x - 0.2) * 800) / 2, ((y + 0.1) * 400) / 2)).toBeCloseTo(20)
  expect(inside(outline, [0.2, -0.1])).toBe(true)
  expect(inside(outline, [0.2 + 42 / 800, -0.1])).toBe(false)
})
