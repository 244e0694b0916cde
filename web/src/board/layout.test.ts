import { describe, expect, it } from 'vitest'
import { revealing, viewportFor } from './layout'

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
