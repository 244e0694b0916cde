/** How a wire runs between two cards: a curve where nothing is in its way, else around what is. */
import type { Place } from '../layout'
import { between, Boxes, rimmed, type Box } from './boxes'
import { pathAround } from './path'

/** An end of a wire: where it is, and which way it leaves the card. */
export interface End extends Place {
  side: 'top' | 'bottom' | 'left' | 'right'
}

const OUT = { top: [0, -1], bottom: [0, 1], left: [-1, 0], right: [1, 0] } as const
/** How much of a card a curve may cover near its ends, since handles lie on the rim, and how far it keeps elsewhere. */
const SLACK = 5
const CLEAR = 3
const SAMPLES = 24
/** How often what a way runs into is added to what it keeps clear of. */
const TRIES = 12
const ROUND = 9

/**
 * Return the drawn path of a wire (SVG path data, in pixels of the board).
 *
 * @param gap How far from cards it keeps, in pixels; wires with different gaps do not cover each other.
 */
export function wirePath(from: End, to: End, cards: Boxes, gap: number): string {
  const curve = curveOf(from, to)
  if (isClear(curve, cards)) return curveData(curve)
  const way = wayAround(from, to, cards, gap)
  return way ? roundedData([from, ...way, to]) : curveData(curve)
}

type Curve = readonly [Place, Place, Place, Place]

function curveOf(from: End, to: End): Curve {
  const pull = (end: End, other: End) => {
    const [x, y] = OUT[end.side]
    const ahead = x * (other.x - end.x) + y * (other.y - end.y)
    const length = ahead >= 0 ? ahead / 2 : 6 * Math.sqrt(-ahead)
    return { x: end.x + x * length, y: end.y + y * length }
  }
  return [from, pull(from, to), pull(to, from), to]
}

function at([a, b, c, d]: Curve, t: number): Place {
  const s = 1 - t
  const mix = (p: number, q: number, r: number, u: number) =>
    s * s * s * p + 3 * s * s * t * q + 3 * s * t * t * r + t * t * t * u
  return { x: mix(a.x, b.x, c.x, d.x), y: mix(a.y, b.y, c.y, d.y) }
}

function isClear(curve: Curve, cards: Boxes): boolean {
  const places = Array.from({ length: SAMPLES + 1 }, (_, k) => at(curve, k / SAMPLES))
  const isNear = (place: Place) =>
    [curve[0], curve[3]].some((end) => Math.hypot(end.x - place.x, end.y - place.y) < 3 * CLEAR)
  return places.slice(1).every((place, k) => {
    const before = places[k]!
    return !hit(before, place, cards, isNear(before) || isNear(place) ? -SLACK : CLEAR).size
  })
}

/** The cards that a straight piece runs into. */
function hit(a: Place, b: Place, cards: Boxes, rim: number): Set<Box> {
  const piece = between(a, b)
  const found = new Set<Box>()
  for (const box of cards.within(rimmed(piece, Math.max(rim, 0) + 1))) {
    if (cuts(a, b, rimmed(box, rim))) found.add(box)
  }
  return found
}

/** Whether a straight piece has a part inside of a box (Liang and Barsky, 1984). */
function cuts(a: Place, b: Place, box: Box): boolean {
  let [begin, end] = [0, 1]
  for (const [delta, low, high] of [
    [b.x - a.x, box.x - a.x, box.x + box.width - a.x],
    [b.y - a.y, box.y - a.y, box.y + box.height - a.y],
  ] as const) {
    if (delta === 0) {
      if (low >= 0 || high <= 0) return false
    } else {
      const [t, u] = delta > 0 ? [low / delta, high / delta] : [high / delta, low / delta]
      begin = Math.max(begin, t)
      end = Math.min(end, u)
    }
  }
  return begin < end
}

/** The corners of a way that keeps clear of cards; null if there is none. */
function wayAround(from: End, to: End, cards: Boxes, gap: number): Place[] | null {
  const away = ({ x, y, side }: End) => ({ x: x + OUT[side][0] * gap, y: y + OUT[side][1] * gap })
  const [begin, end] = [away(from), away(to)]
  let way: Place[] | null = [begin, end]
  const known = new Set<Box>()
  for (let tries = 0; tries < TRIES; tries++) {
    const before = known.size
    way.slice(1).forEach((place, k) => hit(way![k]!, place, cards, gap - 1).forEach((box) => known.add(box)))
    if (known.size === before && tries) return way
    way = pathAround(
      begin,
      end,
      [...known].map((box) => rimmed(box, gap)),
      OUT[from.side][0] !== 0,
    )
    if (!way) return null
  }
  return way
}

function curveData([a, b, c, d]: Curve): string {
  return `M${a.x},${a.y} C${b.x},${b.y} ${c.x},${c.y} ${d.x},${d.y}`
}

/** Straight pieces with rounded corners. */
function roundedData(places: Place[]): string {
  const parts = [`M${places[0]!.x},${places[0]!.y}`]
  for (let k = 1; k < places.length - 1; k++) {
    const [a, b, c] = [places[k - 1]!, places[k]!, places[k + 1]!]
    const [before, after] = [Math.hypot(a.x - b.x, a.y - b.y), Math.hypot(c.x - b.x, c.y - b.y)]
    if (!before || !after) continue
    const radius = Math.min(ROUND, before / 2, after / 2)
    const along = (other: Place, length: number) =>
      `${b.x + ((other.x - b.x) / length) * radius},${b.y + ((other.y - b.y) / length) * radius}`
    parts.push(`L${along(a, before)} Q${b.x},${b.y} ${along(c, after)}`)
  }
  const last = places.at(-1)!
  return [...parts, `L${last.x},${last.y}`].join(' ')
}
