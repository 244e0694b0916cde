/** Elements inside of a box or a lasso on the screen. */
import * as THREE from 'three'
import type { Kind } from '../../api/results'
import type { MeshData } from '../rendering/meshData'
import { spheresOf } from '../rendering/placed'

export type Spot = [number, number]

/** Where the middles of a kind's elements lie `(N, 3)`; kinds that are not picked give none. */
export function centers(mesh: MeshData, kind: Kind): Float32Array {
  if (kind === 'point') return mesh.position
  if (kind === 'edge') {
    const out = new Float32Array((mesh.edge.length / 2) * 3)
    for (let e = 0; e < mesh.edge.length / 2; e++) {
      for (let c = 0; c < 3; c++)
        out[e * 3 + c] = (mesh.position[mesh.edge[e * 2]! * 3 + c]! + mesh.position[mesh.edge[e * 2 + 1]! * 3 + c]!) / 2
    }
    return out
  }
  if (kind === 'instance') {
    const out = new Float32Array(mesh.instances.reduce((sum, placed) => sum + placed.number.length, 0) * 3)
    for (const placed of mesh.instances) {
      const spheres = spheresOf(placed)
      placed.number.forEach((number, k) => out.set(spheres.subarray(k * 4, k * 4 + 3), number * 3))
    }
    return out
  }
  if (kind === 'corner') {
    const out = new Float32Array(mesh.cornerPoint.length * 3)
    for (let i = 0; i < mesh.cornerPoint.length; i++)
      for (let c = 0; c < 3; c++) out[i * 3 + c] = mesh.position[mesh.cornerPoint[i]! * 3 + c]!
    return out
  }
  if (kind !== 'face' || !mesh.triangleFace.length) return new Float32Array(0)
  const faces = mesh.triangleFace.reduce((most, face) => Math.max(most, face), 0) + 1
  const out = new Float32Array(faces * 3)
  const weight = new Float32Array(faces)
  for (let t = 0; t < mesh.triangleFace.length; t++) {
    const face = mesh.triangleFace[t]!
    for (let k = 0; k < 3; k++) {
      const point = mesh.cornerPoint[mesh.triangleCorner[t * 3 + k]!]!
      weight[face]! += 1
      for (let c = 0; c < 3; c++) out[face * 3 + c]! += mesh.position[point * 3 + c]!
    }
  }
  for (let face = 0; face < faces; face++) for (let c = 0; c < 3; c++) out[face * 3 + c]! /= weight[face] || 1
  return out
}

/** Whether each face looks at the camera `(F)`, so that a lasso does not take the far side. */
export function facing(mesh: MeshData, middles: Float32Array, eye: THREE.Vector3): Uint8Array {
  const out = new Uint8Array(middles.length / 3)
  const [a, b, c] = [new THREE.Vector3(), new THREE.Vector3(), new THREE.Vector3()]
  for (let t = mesh.triangleFace.length - 1; t >= 0; t--) {
    const face = mesh.triangleFace[t]!
    const at = (k: number, into: THREE.Vector3) =>
      into.fromArray(mesh.position, mesh.cornerPoint[mesh.triangleCorner[t * 3 + k]!]! * 3)
    at(0, a)
    at(1, b).sub(a)
    at(2, c).sub(a)
    const normal = b.cross(c)
    out[face] = normal.dot(a.fromArray(middles, face * 3).sub(eye)) < 0 ? 1 : 0
  }
  return out
}

/** Whether a spot lies inside of an outline (even-odd rule). */
export function inside(outline: Spot[], [x, y]: Spot): boolean {
  let odd = false
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const [ax, ay] = outline[i]!
    const [bx, by] = outline[j]!
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) odd = !odd
  }
  return odd
}

/** The outline of a box by two of its corners. */
export function boxOf([ax, ay]: Spot, [bx, by]: Spot): Spot[] {
  return [
    [ax, ay],
    [bx, ay],
    [bx, by],
    [ax, by],
  ]
}

/** Numbers of the elements whose middles are inside of an outline in -1..1 coordinates. */
export function elementsWithin(mesh: MeshData, kind: Kind, camera: THREE.Camera, outline: Spot[]): number[] {
  const middles = centers(mesh, kind)
  const seen = kind === 'face' ? facing(mesh, middles, camera.position) : null
  const matrix = new THREE.Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse)
  const at = new THREE.Vector3()
  const found: number[] = []
  for (let i = 0; i < middles.length / 3; i++) {
    if (seen && !seen[i]) continue
    at.fromArray(middles, i * 3).applyMatrix4(matrix)
    if (Math.abs(at.z) <= 1 && inside(outline, [at.x, at.y])) found.push(i)
  }
  return found
}
