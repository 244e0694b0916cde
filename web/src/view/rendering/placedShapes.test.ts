import * as THREE from 'three'
import { beforeEach, describe, expect, it } from 'vitest'
import { square } from '../../testing/meshes'
import type { Placed } from './placed'
import { PlacedShapes } from './placedShapes'
import type { Tint } from './picture'

const matrices = (count: number) =>
  new Float32Array(
    Array.from({ length: count }, (_, k) => new THREE.Matrix4().makeTranslation(k, 0, 0).elements).flat(),
  )
const faceless = { ...square(), triangleFace: new Uint32Array(0), segment: new Uint32Array([0, 1]) }

describe('placed shapes', () => {
  let shapes: PlacedShapes
  let placed: Placed[]
  const tint = (kind: Tint['kind'], colors: Float32Array, own: Tint['placed'] = []): Tint => ({
    kind,
    colors,
    depth: 0.3,
    placed: own,
  })
  const drawn = () =>
    shapes.children.filter(
      (child): child is THREE.InstancedMesh<THREE.BufferGeometry, THREE.Material> =>
        child instanceof THREE.InstancedMesh,
    )
  beforeEach(() => {
    shapes = new PlacedShapes()
    placed = [
      { mesh: square(), matrix: matrices(3), number: new Uint32Array([0, 2, 3]) },
      { mesh: faceless, matrix: matrices(1), number: new Uint32Array([1]) },
    ]
  })

  it('are uploaded once and drawn once per matrix: faces, edges, curves and points', () => {
    shapes.set(placed, null)
    expect(drawn()).toHaveLength(1)
    expect(drawn()[0]!.count).toBe(3)
    expect(drawn()[0]!.geometry.getIndex()!.count).toBe(9)
    const lines = shapes.children.filter((child) => child instanceof THREE.LineSegments)
    expect(lines.map((part) => (part.geometry as THREE.InstancedBufferGeometry).instanceCount)).toEqual([3, 1, 1])
    shapes.setShown({ faces: true, wire: false, points: false, smooth: false })
    const dots = shapes.children.filter((child) => child instanceof THREE.Points)
    expect(
      dots.map((part) => part.visible),
      'a shape without faces shows its points',
    ).toEqual([false, true])
    shapes.set([], null)
    expect(shapes.children).toHaveLength(0)
  })

  it('take the colours of instances by their numbers', () => {
    shapes.set(placed, tint('instance', new Float32Array([0, 0, 0, 1, 1, 1, 2, 2, 2, 3, 3, 3])))
    const tone = drawn()[0]!.geometry.getAttribute('tone')
    expect(tone).toBeInstanceOf(THREE.InstancedBufferAttribute)
    expect([...tone.array]).toEqual([0, 0, 0, 2, 2, 2, 3, 3, 3])
  })

  it('take the colours of their own points and faces, and stay clay where they have none', () => {
    shapes.set(placed, tint('point', new Float32Array(0), [new Float32Array(15).fill(0.5), null]))
    expect(drawn()[0]!.geometry.getAttribute('tone').count).toBe(5)
    const toned = drawn()[0]!.material
    shapes.set(placed, tint('face', new Float32Array(0), [new Float32Array([1, 0, 0, 0, 1, 0]), null]))
    expect(drawn()[0]!.geometry.getAttribute('tone').count, 'faces are drawn apart').toBe(9)
    expect(drawn()[0]!.material).toBe(toned)
    shapes.set(placed, tint('face', new Float32Array(6), [null, null]))
    expect(drawn()[0]!.material).not.toBe(toned)
  })
})
