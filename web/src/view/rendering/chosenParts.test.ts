import { expect, it } from 'vitest'
import { square } from '../../testing/meshes'
import { ChosenParts, drawnAs, facesIndex } from './chosenParts'

it('marks faces by the points of their triangles', () => {
  expect(facesIndex(square(), new Set([1]))).toEqual([1, 4, 2])
  expect(facesIndex(square(), new Set([0]))).toEqual([0, 1, 2, 0, 2, 3])
})

it('draws what is there, and in a layout each copy', () => {
  expect(drawnAs(new Set([1, 9]), undefined, 5)).toEqual([1])
  expect(drawnAs(new Set([1]), new Uint32Array([0, 1, 1, 2]), 3)).toEqual([1, 2])
})

it('has a box around what is marked', () => {
  const parts = new ChosenParts()
  expect(parts.box('face')).toBeNull()
  for (const [kind, chosen, low, high] of [
    ['face', 1, [1, 0, 0], [2, 1, 0]],
    ['edge', 4, [1, 0, 0], [2, 0, 0]],
    ['point', 3, [0, 1, 0], [0, 1, 0]],
    ['corner', 5, [2, 0, 0], [2, 0, 0]],
  ] as const) {
    parts.set(square(), kind, new Set([chosen]))
    const [from, to] = parts.box(kind)!
    for (let axis = 0; axis < 3; axis++) {
      expect(from[axis]!).toBeLessThan(low[axis]!)
      expect(to[axis]!).toBeGreaterThan(high[axis]!)
    }
  }
  parts.set(square(), 'face', new Set())
  expect(parts.box('face')).toBeNull()
  parts.dispose()
})
