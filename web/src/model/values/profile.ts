/** Functions of one number through points, as the core evaluates them: response curves and colour gradients. */
export const STEPS = ['smooth', 'straight', 'constant'] as const
export type Step = (typeof STEPS)[number]

/** A point of a profile: where it is, a value for each channel, and how it goes on towards the next point. */
export interface Knot {
  x: number
  y: number[]
  step: Step
}

/** Return the knots of points that are numbers, maybe followed by a step. */
export function knotsOf(points: readonly (readonly (number | Step | undefined)[])[], usual: Step): Knot[] {
  return points.map((point) => {
    const [x, ...y] = point.filter((part): part is number => typeof part === 'number')
    return { x: x!, y, step: stepOf(point, usual) }
  })
}

export function stepOf(point: readonly unknown[], usual: Step): Step {
  const last = point.at(-1)
  return typeof last === 'string' ? (last as Step) : usual
}

/** Return the point with another step; the usual one is not written down. */
export function withStep<T extends readonly unknown[]>(point: T, step: Step, usual: Step): T {
  const numbers = point.filter((part) => typeof part === 'number')
  return (step === usual ? numbers : [...numbers, step]) as unknown as T
}

/** Return the slopes at points of rising x, so that the curve does not overshoot (Fritsch & Carlson 1980). */
function slopes(x: number[], y: number[]): number[] {
  const h = x.slice(1).map((place, i) => place - x[i]!)
  const d = y.slice(1).map((value, i) => (value - y[i]!) / h[i]!)
  if (x.length === 2) return [d[0]!, d[0]!]
  const end = (h0: number, h1: number, d0: number, d1: number) => {
    const slope = ((2 * h0 + h1) * d0 - h0 * d1) / (h0 + h1)
    if (Math.sign(slope) !== Math.sign(d0)) return 0
    return Math.sign(d0) !== Math.sign(d1) && Math.abs(slope) > 3 * Math.abs(d0) ? 3 * d0 : slope
  }
  return x.map((_, i) => {
    if (i === 0) return end(h[0]!, h[1]!, d[0]!, d[1]!)
    if (i === x.length - 1) return end(h[i - 1]!, h[i - 2]!, d[i - 1]!, d[i - 2]!)
    const [before, after] = [d[i - 1]!, d[i]!]
    if (before * after <= 0) return 0
    const [w1, w2] = [2 * h[i]! + h[i - 1]!, h[i]! + 2 * h[i - 1]!]
    return (w1 + w2) / (w1 / before + w2 / after)
  })
}

/** Return the smooth run around the piece after `at`: it ends at jumps and where the step is another. */
function runAround(knots: Knot[], at: number): Knot[] {
  const smooth = (i: number) =>
    knots[i]?.step === 'smooth' && knots[i + 1] !== undefined && knots[i].x < knots[i + 1]!.x
  let [first, last] = [at, at + 1]
  while (smooth(first - 1)) first -= 1
  while (smooth(last)) last += 1
  return knots.slice(first, last + 1)
}

/** Return the value of each channel at x; level before the first and after the last knot. */
export function valueAt(knots: Knot[], x: number): number[] {
  let at = knots.findLastIndex((knot) => knot.x <= x)
  if (at < 0) return knots[0]!.y
  if (at === knots.length - 1) return knots[at]!.y
  const [a, b] = [knots[at]!, knots[at + 1]!]
  const t = (x - a.x) / (b.x - a.x)
  if (a.step === 'constant') return a.y
  if (a.step === 'straight') return a.y.map((value, i) => value + (b.y[i]! - value) * t)
  const run = runAround(knots, at)
  at = run.indexOf(a)
  const h = b.x - a.x
  const [t2, t3] = [t * t, t * t * t]
  return a.y.map((value, i) => {
    const m = slopes(
      run.map((knot) => knot.x),
      run.map((knot) => knot.y[i]!),
    )
    return (
      (2 * t3 - 3 * t2 + 1) * value +
      (t3 - 2 * t2 + t) * h * m[at]! +
      (3 * t2 - 2 * t3) * b.y[i]! +
      (t3 - t2) * h * m[at + 1]!
    )
  })
}

/** Return places from 0 to 1 at which to draw: even ones, and both sides of every knot. */
export function drawnAt(knots: Knot[], parts: number): number[] {
  const even = Array.from({ length: parts + 1 }, (_, i) => i / parts)
  const sides = knots.flatMap((knot) => [Math.max(knot.x - 1e-9, 0), knot.x])
  return [...even, ...sides].sort((a, b) => a - b)
}

/** Return between which places a point may move: its neighbours', which it may meet unless two are there already. */
export function freeRange(points: readonly (readonly [number, ...unknown[]])[], index: number): [number, number] {
  const x = (at: number) => points[at]?.[0]
  const clear = (one: number | undefined, two: number | undefined, side: number, end: number) =>
    one === undefined ? end : one === two ? one + side * 0.001 : one
  return [clear(x(index - 1), x(index - 2), 1, 0), clear(x(index + 1), x(index + 2), -1, 1)]
}
