import { describe, expect, it } from 'vitest'
import type { GraphDocument } from './document'
import { frameBox, inLine, layout, revealing, viewportFor } from './layout'

const size = { width: 200, height: 80 }
const pane = { width: 500, height: 400 }

describe('what the board shows first', () => {
  it('is everything, in the middle and from the top, if there is room', () => {
    const places = { a: { x: 0, y: 0 }, b: { x: 100, y: 100 } }
    expect(viewportFor(places, { a: size, b: size }, 'a', pane)).toEqual({ x: 100, y: 12 })
  })

  it('is else the card that is looked at, near the lower edge', () => {
    const places = { a: { x: 0, y: 0 }, b: { x: 900, y: 300 }, c: { x: 400, y: 900 } }
    const shift = viewportFor(places, { a: size, b: size, c: size }, 'b', pane)
    expect(900 + shift.x).toBeLessThanOrEqual(500 - 200)
    expect(300 + 80 + shift.y).toBe(400 - 24)
  })

  it('is the top of that card, if it is taller than the board', () => {
    const tall = { width: 200, height: 900 }
    expect(viewportFor({ a: { x: 0, y: 100 }, b: { x: 0, y: 1100 } }, { a: tall, b: size }, 'a', pane).y).toBe(12 - 100)
  })

  it('leaves no more than the margin empty beside the cards', () => {
    const places = { a: { x: 0, y: 0 }, b: { x: 900, y: 0 } }
    expect(viewportFor(places, { a: size, b: size }, 'a', pane).x).toBe(12)
    expect(viewportFor({}, {}, '', pane)).toEqual({ x: 0, y: 0 })
  })
})

describe('revealing a card', () => {
  const pane = { width: 400, height: 600 }
  const card = { width: 300, height: 200 }

  it('leaves a card that shows where it is', () => {
    expect(revealing({ x: 0, y: 0 }, { x: 20, y: 50 }, card, pane)).toEqual({ x: 0, y: 0 })
  })

  it('moves up, down and sideways as little as it takes', () => {
    expect(revealing({ x: 0, y: 0 }, { x: 20, y: 500 }, card, pane)).toEqual({ x: 0, y: -112 })
    expect(revealing({ x: 0, y: -900 }, { x: 20, y: 500 }, card, pane)).toEqual({ x: 0, y: -488 })
    expect(revealing({ x: 0, y: 0 }, { x: 200, y: 50 }, card, pane)).toEqual({ x: -112, y: 0 })
  })

  it('shows the top of a card that is taller than the pane', () => {
    expect(revealing({ x: 0, y: 0 }, { x: 20, y: 300 }, { width: 300, height: 900 }, pane)).toEqual({ x: 0, y: -288 })
  })
})

describe('the layout', () => {
  const document = (place?: [number, number]): GraphDocument => ({
    format: 'reticula graph',
    version: 1,
    nodes: {
      a: { operator: 'box' },
      b: { operator: 'transform', inputs: { geo: ['a'] }, place },
      c: { operator: 'transform', inputs: { geo: ['a'] } },
      d: { operator: 'join', inputs: { geometries: ['b', 'c'] } },
    },
  })
  const sizes = { a: size, b: size, c: size, d: size }
  const boxes = (places: Record<string, { x: number; y: number }>) =>
    Object.entries(places).map(([id, at]) => ({ id, ...at }))
  const clash = (places: Record<string, { x: number; y: number }>) =>
    boxes(places).some((a) =>
      boxes(places).some((b) => a.id < b.id && Math.abs(a.x - b.x) < size.width && Math.abs(a.y - b.y) < size.height),
    )

  it('runs top to bottom', () => {
    const places = layout(document(), sizes)
    expect(places.a!.y).toBeLessThan(places.b!.y)
    expect(places.c!.y).toBeLessThan(places.d!.y)
    expect(clash(places)).toBe(false)
  })
  it('leaves cards placed by hand where they are, and the others make way', () => {
    const auto = layout(document(), sizes)
    const at: [number, number] = [auto.d!.x + 20, auto.d!.y + 10]
    const places = layout(document(at), sizes)
    expect(places.b).toEqual({ x: at[0], y: at[1] })
    expect(clash(places)).toBe(false)
  })
  it('keeps the cards of a frame together, and the frame goes around them', () => {
    const framed = { ...document(), frames: { f: { nodes: ['b', 'c', 'gone'] } } }
    const places = layout(framed, sizes)
    const box = frameBox(framed.frames.f.nodes, places, sizes)!
    for (const id of ['b', 'c']) {
      expect(places[id]!.x).toBeGreaterThan(box.x)
      expect(places[id]!.y + size.height).toBeLessThan(box.y + box.height)
    }
    expect(places.d!.y).toBeGreaterThan(box.y + box.height - 12)
    expect(frameBox(['gone'], places, sizes)).toBeNull()
  })
})

describe('which way the graph runs', () => {
  const chain = {
    format: 'reticula graph',
    version: 1,
    nodes: { a: { operator: 'grid' }, b: { operator: 'extrude', inputs: { geo: ['a'] } } },
  }

  it('is down or across', () => {
    const down = layout(chain, {})
    const across = layout(chain, {}, 'across')
    expect(down.b!.y).toBeGreaterThan(down.a!.y + 70)
    expect(across.b!.x).toBeGreaterThan(across.a!.x + 220)
    expect(across.b!.y).toBe(across.a!.y)
  })

  it('says how chosen cards are put in a line, without one covering another', () => {
    const places = { a: { x: 40, y: 0 }, b: { x: 10, y: 30 }, c: { x: 70, y: 400 } }
    const sizes = { a: size, b: size, c: size }
    expect(inLine(['a', 'b', 'c', 'gone'], places, sizes, 'down')).toEqual({
      a: { x: 10, y: 0 },
      b: { x: 10, y: 96 },
      c: { x: 10, y: 400 },
    })
    expect(inLine(['b', 'a'], places, sizes, 'across')).toEqual({ b: { x: 10, y: 0 }, a: { x: 226, y: 0 } })
  })
})
