/** Response curves as the core evaluates them: a number for each number, smooth where no step is said. */
import { freeRange, knotsOf, valueAt, type Step } from './profile'

export type CurvePoint = [x: number, y: number, step?: Step]

/** Return the curve's value at x. */
export function respond(points: CurvePoint[], x: number): number {
  return valueAt(knotsOf(points, 'smooth'), x)[0]!
}

const round = (value: number) => Math.round(value * 1000) / 1000

/** Move a point; it stays between its neighbours (or meets one: a jump), and at or above `low`. */
export function movePoint(points: CurvePoint[], index: number, to: [number, number], low = 0): CurvePoint[] {
  const [left, right] = freeRange(points, index)
  const [, , ...step] = points[index]!
  const moved: CurvePoint = [Math.min(Math.max(round(to[0]), left), right), Math.max(round(to[1]), low), ...step]
  return points.map((point, i) => (i === index ? moved : point))
}

/** Add a point, in order of x; one that is too near to another replaces nothing. */
export function addPoint(points: CurvePoint[], point: CurvePoint): CurvePoint[] {
  if (points.some((other) => Math.abs(other[0] - point[0]) < 0.01)) return points
  return [...points, point].sort((a, b) => a[0] - b[0])
}
