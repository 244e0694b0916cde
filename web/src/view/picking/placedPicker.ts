/** Which instance lies under the pointer: spheres around all of them first, then a tree over the triangles of each shape. */
import * as THREE from 'three'
import { MeshBVH } from 'three-mesh-bvh'
import { isSamePlaced, spheresOf, type Placed } from '../rendering/placed'
import { geometryOf } from './geometryOf'

export interface PlacedHit {
  instance: number
  place: THREE.Vector3
}

interface Shape {
  placed: Placed
  /** Middle and radius of the sphere around each instance, in m `(N, 4)`. */
  spheres: Float32Array
  tree: MeshBVH | null
}

export class PlacedPicker {
  private placed: Placed[] = []
  private shapes: Shape[] | null = null

  set(placed: Placed[]): void {
    if (placed.length === this.placed.length && placed.every((one, k) => isSamePlaced(one, this.placed[k]!))) return
    this.placed = placed
    this.shapes = null
  }

  /** Return the instance that a ray hits first, and where; null for none. Shapes without faces are hit by their spheres. */
  pick(ray: THREE.Ray): PlacedHit | null {
    this.shapes ??= this.placed.map((placed) => ({ placed, spheres: spheresOf(placed), tree: null }))
    let found: PlacedHit | null = null
    let nearest = Infinity
    const sphere = new THREE.Sphere()
    const place = new THREE.Vector3()
    const matrix = new THREE.Matrix4()
    for (const shape of this.shapes) {
      const { mesh, number, matrix: matrices } = shape.placed
      for (let k = 0; k < number.length; k++) {
        sphere.center.fromArray(shape.spheres, k * 4)
        sphere.radius = shape.spheres[k * 4 + 3]!
        if (sphere.center.distanceTo(ray.origin) - sphere.radius > nearest || !ray.intersectsSphere(sphere)) continue
        let hit: THREE.Vector3 | null = ray.closestPointToPoint(sphere.center, place)
        if (mesh.triangleFace.length) {
          shape.tree ??= new MeshBVH(geometryOf(mesh), { indirect: true })
          matrix.fromArray(matrices, k * 16)
          const inside = ray.clone().applyMatrix4(matrix.clone().invert())
          hit = shape.tree.raycastFirst(inside, THREE.DoubleSide)?.point.applyMatrix4(matrix) ?? null
        }
        const far = hit ? hit.distanceTo(ray.origin) : Infinity
        if (hit && far < nearest) {
          nearest = far
          found = { instance: number[k]!, place: hit.clone() }
        }
      }
    }
    return found
  }
}
