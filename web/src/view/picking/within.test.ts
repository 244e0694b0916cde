import * as THREE from 'three'
import { describe, expect, it } from 'vitest'
import { colorize } from '../color/colors'
import type { AttributeLook } from '../../api/results'
import type { MeshData } from '../rendering/meshData'
import { colorAt, covered, tint } from '../color/scales'
import { boxOf, centers, elementsWithin, inside } from './within'

/** Two triangles side by side at z = 0, and one behind them that looks away. */
const mesh = {
  position: new Float32Array([-1, 0, 0, 0, 0, 0, -0.5, 1, 0, 0.1, 0, 0, 1, 0, 0, 0.5, 1, 0]),
  cornerPoint: new Uint32Array([0, 1, 2, 3, 4, 5, 2, 1, 0]),
  triangleCorner: new Uint32Array([0, 1, 2, 3, 4, 5, 6, 7, 8]),
  triangleFace: new Uint32Array([0, 1, 2]),
  edge: new Uint32Array([0, 1]),
} as unknown as MeshData

function camera(): THREE.PerspectiveCamera {
  const made = new THREE.PerspectiveCamera(60, 1, 0.1, 100)
  made.position.set(0, 0.5, 3)
  made.lookAt(0, 0.5, 0)
  made.updateMatrixWorld()
  return made
}

describe('elements within an outline', () => {
  it('are told by their middles', () => {
    expect([...centers(mesh, 'edge')]).toEqual([-0.5, 0, 0])
    expect(centers(mesh, 'face')[3]).toBeCloseTo(0.533, 3)
    expect(elementsWithin(mesh, 'face', camera(), boxOf([0, -1], [1, 1]))).toEqual([1])
    expect(elementsWithin(mesh, 'point', camera(), boxOf([-1, -1], [0.01, 1]))).toEqual([0, 1, 2])
  })
  it('leave out faces that look away', () => {
    expect(elementsWithin(mesh, 'face', camera(), boxOf([-1, -1], [1, 1]))).toEqual([0, 1])
  })
  it('may be of any outline', () => {
    const arrow: [number, number][] = [
      [0, 0],
      [2, 1],
      [0, 2],
      [1, 1],
    ]
    expect(inside(arrow, [0.3, 1])).toBe(false)
    expect(inside(arrow, [1.2, 1])).toBe(true)
    expect(inside([], [0, 0])).toBe(false)
  })
})

describe('scales', () => {
  it('lie about zero for signed values', () => {
    expect(covered('signed', -1, 3)).toEqual([-3, 3])
    expect(covered('even', -1, 3)).toEqual([-1, 3])
    const middle = colorAt('signed', 0.5)
    expect(Math.max(...middle) - Math.min(...middle)).toBeLessThan(0.06)
    expect(tint(3)).not.toEqual(tint(4))
  })
  it('cover the range that is set, and say so', () => {
    const look = {
      name: 'heat',
      type: 'number',
      kind: 'point',
      low: [0],
      high: [10],
      values: { digest: '', dtype: 'f4', shape: [3] },
    } as unknown as AttributeLook
    const { colors, legend } = colorize(look, new Float32Array([0, 5, 10]), '', 'even', [4, 6])
    expect(legend).toMatchObject({ low: 0, high: 10, from: 4, to: 6 })
    expect(legend.form === 'range' && legend.histogram.reduce((a, b) => a + b)).toBe(3)
    expect([...colors.slice(0, 3)]).toEqual([...new Float32Array(colorAt('even', 0))])
    expect([...colors.slice(6)]).toEqual([...new Float32Array(colorAt('even', 1))])
  })
})
