import * as THREE from 'three'
import { expect, it } from 'vitest'
import { square } from '../../testing/meshes'
import { PlacedShapes } from './instancedMeshes'

it('uploads each shape once and draws it once per matrix', () => {
  const placed = new PlacedShapes(new THREE.MeshBasicMaterial())
  const empty = { ...square(), triangleFace: new Uint32Array(0) }
  placed.set([
    { mesh: square(), matrix: new Float32Array(48) },
    { mesh: empty, matrix: new Float32Array(16) },
  ])
  expect(placed.children).toHaveLength(1)
  const drawn = placed.children[0] as THREE.InstancedMesh
  expect(drawn.count).toBe(3)
  expect(drawn.geometry.getIndex()!.count).toBe(9)
  placed.set([])
  expect(placed.children).toHaveLength(0)
})
