/** A shape that stands in many places. */
import * as THREE from 'three'
import type { MeshData } from './meshData'

/** A matrix (16 numbers, column by column) for each place, and the number of its instance. */
export interface Placed {
  mesh: MeshData
  matrix: Float32Array
  number: Uint32Array
}

/** Arrays of the same content are the same arrays. */
export function isSamePlaced(a: Placed, b: Placed): boolean {
  return (
    a.matrix === b.matrix &&
    a.number === b.number &&
    a.mesh.position === b.mesh.position &&
    a.mesh.normal === b.mesh.normal &&
    a.mesh.triangleCorner === b.mesh.triangleCorner &&
    a.mesh.edge === b.mesh.edge &&
    a.mesh.segment === b.mesh.segment
  )
}

/** Spheres around instances, as far as their shape reaches under each matrix. */
export function spheresOf({ mesh, matrix }: Placed): Float32Array {
  const box = new THREE.Box3(new THREE.Vector3(...mesh.bounds[0]), new THREE.Vector3(...mesh.bounds[1]))
  const own = box.getBoundingSphere(new THREE.Sphere())
  const out = new Float32Array(matrix.length / 4)
  const at = new THREE.Matrix4()
  const sphere = new THREE.Sphere()
  for (let k = 0; k < matrix.length / 16; k++) {
    sphere.copy(own).applyMatrix4(at.fromArray(matrix, k * 16))
    sphere.center.toArray(out, k * 4)
    out[k * 4 + 3] = sphere.radius
  }
  return out
}
