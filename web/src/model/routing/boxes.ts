/** Boxes of the board, found by where they lie. */
import type { Place, Size } from '../layout'

export interface Box extends Place, Size {}

/** Wide enough for a card, so that one lies in few cells. */
const CELL = 256

/** Boxes in cells of a grid: what lies near a place is found without looking at all of them. */
export class Boxes {
  private readonly cells = new Map<string, Box[]>()

  constructor(boxes: Iterable<Box>) {
    for (const box of boxes)
      for (const key of cellsOf(box)) {
        const held = this.cells.get(key)
        if (held) held.push(box)
        else this.cells.set(key, [box])
      }
  }

  /** Boxes that share more than their rim with an area. */
  within(area: Box): Set<Box> {
    const found = new Set<Box>()
    for (const key of cellsOf(area))
      for (const box of this.cells.get(key) ?? []) if (overlaps(box, area)) found.add(box)
    return found
  }
}

export function overlaps(a: Box, b: Box): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height
}

/** A box with a rim around it; without some of it where the rim is negative. */
export function rimmed({ x, y, width, height }: Box, rim: number): Box {
  return { x: x - rim, y: y - rim, width: width + 2 * rim, height: height + 2 * rim }
}

/** The box between two places. */
export function between(a: Place, b: Place): Box {
  return { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), width: Math.abs(a.x - b.x), height: Math.abs(a.y - b.y) }
}

function cellsOf({ x, y, width, height }: Box): string[] {
  const keys: string[] = []
  for (let i = Math.floor(x / CELL); i <= Math.floor((x + width) / CELL); i++)
    for (let j = Math.floor(y / CELL); j <= Math.floor((y + height) / CELL); j++) keys.push(`${i},${j}`)
  return keys
}
