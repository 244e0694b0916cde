/** A shortest way of level and upright pieces around boxes. */
import TinyQueue from 'tinyqueue'
import type { Place } from '../layout'
import type { Box } from './boxes'

/** What a turn costs, in pixels of length: fewer turns are easier to follow. */
const TURN = 60

interface Step {
  i: number
  j: number
  /** Whether the way came here level (0) or upright (1). */
  way: 0 | 1
  cost: number
  guess: number
  before: Step | null
}

/**
 * Return the corners of the way from one place to another that is shortest when each turn counts as `TURN` pixels, and
 * that touches boxes at their rims only; null if there is none. A* on the lines through the rims of the boxes and
 * through both ends (the orthogonal visibility graph of Wybrow, Marriott and Stuckey, "Orthogonal Connector Routing", 2009).
 *
 * @param level Whether the way comes level to its begin, so that going on level is no turn; else it comes upright.
 */
export function pathAround(from: Place, to: Place, boxes: Box[], level = false): Place[] | null {
  const xs = sorted([from.x, to.x, ...boxes.flatMap((box) => [box.x, box.x + box.width])])
  const ys = sorted([from.y, to.y, ...boxes.flatMap((box) => [box.y, box.y + box.height])])
  const inside = (x: number, y: number) =>
    boxes.some((box) => x > box.x && x < box.x + box.width && y > box.y && y < box.y + box.height)
  const end = { i: xs.indexOf(to.x), j: ys.indexOf(to.y) }
  const left = (i: number, j: number) => Math.abs(xs[i]! - to.x) + Math.abs(ys[j]! - to.y)
  const queue = new TinyQueue<Step>([], (a, b) => a.guess - b.guess)
  const best = new Map<number, number>()
  const reach = (i: number, j: number, way: 0 | 1, cost: number, before: Step | null) => {
    const key = (i * ys.length + j) * 2 + way
    if (cost >= (best.get(key) ?? Infinity)) return
    best.set(key, cost)
    queue.push({ i, j, way, cost, guess: cost + left(i, j), before })
  }
  reach(xs.indexOf(from.x), ys.indexOf(from.y), level ? 0 : 1, 0, null)
  for (let step = queue.pop(); step; step = queue.pop()) {
    const { i, j, way, cost } = step
    if (i === end.i && j === end.j) return corners(step, xs, ys)
    for (const [di, dj] of [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ] as const) {
      const [x, y] = [xs[i + di], ys[j + dj]]
      if (x === undefined || y === undefined || inside((x + xs[i]!) / 2, (y + ys[j]!) / 2)) continue
      const next = di ? 0 : 1
      reach(i + di, j + dj, next, cost + Math.abs(x - xs[i]!) + Math.abs(y - ys[j]!) + (next === way ? 0 : TURN), step)
    }
  }
  return null
}

function sorted(values: number[]): number[] {
  return [...new Set(values)].sort((a, b) => a - b)
}

function corners(last: Step, xs: number[], ys: number[]): Place[] {
  const found: Place[] = []
  for (let step: Step | null = last; step; step = step.before) found.unshift({ x: xs[step.i]!, y: ys[step.j]! })
  return straightened(found)
}

/** Leave out places that lie between their neighbours. */
function straightened(places: Place[]): Place[] {
  return places.filter((at, k) => {
    const [a, b] = [places[k - 1], places[k + 1]]
    return !a || !b || !((a.x === at.x && at.x === b.x) || (a.y === at.y && at.y === b.y))
  })
}
