/** Wires keep clear of cards. */
import { describe, expect, it } from 'vitest'
import type { Place } from '../layout'
import { Boxes, type Box } from './boxes'
import { pathAround } from './path'
import { wirePath } from './wires'

const card = (x: number, y: number): Box => ({ x, y, width: 200, height: 80 })
const below = (x: number, y: number) => ({ x, y, side: 'bottom' as const })
const above = (x: number, y: number) => ({ x, y, side: 'top' as const })

/** The corners and ends of a drawn path. */
function places(path: string): Place[] {
  return [...path.matchAll(/(-?[\d.]+),(-?[\d.]+)/g)].map(([, x, y]) => ({ x: Number(x), y: Number(y) }))
}

function within(box: Box, { x, y }: Place): boolean {
  return x > box.x && x < box.x + box.width && y > box.y && y < box.y + box.height
}

/** How many of the places along the pieces of a path lie inside of a box. */
function covered(path: string, box: Box): number {
  const all = places(path)
  let count = 0
  for (let k = 1; k < all.length; k++)
    for (let t = 0; t <= 1; t += 0.02) {
      const [a, b] = [all[k - 1]!, all[k]!]
      if (within(box, { x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t })) count++
    }
  return count
}

describe('wirePath', () => {
  it('is a curve where nothing is in its way', () => {
    expect(wirePath(below(100, 80), above(300, 300), new Boxes([card(0, 0), card(200, 300)]), 6)).toContain('C')
  })

  it('runs around a card between its ends, and around its own where it runs back', () => {
    const middle = card(0, 100)
    const path = wirePath(below(100, 80), above(100, 200), new Boxes([card(0, 0), middle, card(0, 200)]), 6)
    expect(path).not.toContain('C')
    expect(covered(path, middle)).toBe(0)
    const own = card(0, 300)
    const back = wirePath(below(100, 380), above(100, 0), new Boxes([card(0, 0), own]), 6)
    expect(covered(back, own)).toBe(0)
  })

  it('passes a column of three hundred cards in one go', () => {
    const column = Array.from({ length: 300 }, (_, k) => card(0, 100 * k))
    const path = wirePath(below(100, 80), above(100, 29_900), new Boxes(column), 6)
    expect(column.every((box) => covered(path, box) === 0)).toBe(true)
    expect(places(path).length, 'two turns out and two in').toBeLessThan(20)
  })

  it('keeps its distance by its gap', () => {
    const boxes = new Boxes([card(0, 0), card(0, 100), card(0, 200)])
    const reach = (gap: number) =>
      Math.max(...places(wirePath(below(150, 80), above(150, 200), boxes, gap)).map((place) => place.x))
    expect(reach(3)).toBe(203)
    expect(reach(8)).toBe(208)
  })

  it('is a curve where cards leave no way', () => {
    const walls = [
      { x: -500, y: 100, width: 1200, height: 80 },
      { x: -500, y: 0, width: 400, height: 400 },
      { x: 300, y: 0, width: 400, height: 400 },
      { x: -500, y: -80, width: 1200, height: 80 },
    ]
    expect(wirePath(below(100, 80), above(100, 200), new Boxes(walls), 6)).toContain('C')
  })
})

describe('pathAround', () => {
  it('finds the shorter side and few turns', () => {
    const wall = { x: -50, y: 40, width: 300, height: 20 }
    const way = (level: boolean) => pathAround({ x: 0, y: 0 }, { x: 0, y: 100 }, [wall], level)!
    expect(way(false), 'goes on upright').toHaveLength(5)
    expect(way(false)[1]).toEqual({ x: 0, y: 40 })
    expect(way(true)).toEqual([
      { x: 0, y: 0 },
      { x: -50, y: 0 },
      { x: -50, y: 100 },
      { x: 0, y: 100 },
    ])
  })

  it('says when there is no way', () => {
    const around = { x: -10, y: -10, width: 20, height: 20 }
    expect(pathAround({ x: 0, y: 0 }, { x: 100, y: 0 }, [around])).toBeNull()
  })
})
