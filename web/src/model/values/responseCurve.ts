/** Response curves: a monotone curve through points, as the core evaluates it (Fritsch & Carlson 1980). */
export type CurvePoint = [number, number]

/** Return the slope at every point, so that the curve does not overshoot between neighbours. */
function slopes(points: CurvePoint[]): number[] {
  const h = points.slice(1).map((point, i) => point[0] - points[i]![0])
  const d = points.slice(1).map((point, i) => (point[1] - points[i]![1]) / h[i]!)
  if (points.length === 2) return [d[0]!, d[0]!]
  const end = (h0: number, h1: number, d0: number, d1: number) => {
    const slope = ((2 * h0 + h1) * d0 - h0 * d1) / (h0 + h1)
    if (Math.sign(slope) !== Math.sign(d0)) return 0
    return Math.sign(d0) !== Math.sign(d1) && Math.abs(slope) > 3 * Math.abs(d0) ? 3 * d0 : slope
  }
  return points.map((_, i) => {
    if (i === 0) return end(h[0]!, h[1]!, d[0]!, d[1]!)
    if (i === points.length - 1) return end(h[i - 1]!, h[i - 2]!, d[i - 1]!, d[i - 2]!)
    const [before, after] = [d[i - 1]!, d[i]!]
    if (before * after <= 0) return 0
    const [w1, w2] = [2 * h[i]! + h[i - 1]!, h[i]! + 2 * h[i - 1]!]
    return (w1 + w2) / (w1 / before + w2 / after)
  })
}

/** Return the curve's value at x; level before the first and after the last point. */
export function respond(points: CurvePoint[], x: number): number {
  const first = points[0]!
  const last = points.at(-1)!
  if (points.length === 1 || x <= first[0]) return first[1]
  if (x >= last[0]) return last[1]
  const m = slopes(points)
  const i = points.findIndex((point, n) => n + 1 < points.length && x < points[n + 1]![0] && x >= point[0])
  const [a, b] = [points[i]!, points[i + 1]!]
  const h = b[0] - a[0]
  const t = (x - a[0]) / h
  const [t2, t3] = [t * t, t * t * t]
  return (
    (2 * t3 - 3 * t2 + 1) * a[1] + (t3 - 2 * t2 + t) * h * m[i]! + (3 * t2 - 2 * t3) * b[1] + (t3 - t2) * h * m[i + 1]!
  )
}

/** Move a point; it stays between its neighbours, and at or above 0. */
export function movePoint(points: CurvePoint[], index: number, to: CurvePoint): CurvePoint[] {
  const low = index ? points[index - 1]![0] + 0.001 : 0
  const high = index + 1 < points.length ? points[index + 1]![0] - 0.001 : 1
  const round = (value: number) => Math.round(value * 1000) / 1000
  return points.map((point, i) =>
    i === index ? [round(Math.min(Math.max(to[0], low), high)), round(Math.max(to[1], 0))] : point,
  )
}

/** Add a point, in order of x; one that is too near to another replaces nothing. */
export function addPoint(points: CurvePoint[], point: CurvePoint): CurvePoint[] {
  if (points.some((other) => Math.abs(other[0] - point[0]) < 0.01)) return points
  return [...points, point].sort((a, b) => a[0] - b[0])
}
