import * as THREE from 'three'
import { describe, expect, it } from 'vitest'
import { reachFor } from './framing'

/** Where the corners of a box are in the picture, -1..1, when the camera stands as far back as it should. */
function corners(box: THREE.Box3, from: THREE.Vector3, aspect: number) {
  const camera = new THREE.PerspectiveCamera(40, aspect, 0.001, 1e6)
  const center = box.getCenter(new THREE.Vector3())
  camera.position.copy(center).add(from)
  camera.lookAt(center)
  camera.updateMatrixWorld()
  const reach = reachFor(camera, box, center)
  const back = new THREE.Vector3(0, 0, 1).applyQuaternion(camera.quaternion)
  camera.position.copy(center).addScaledVector(back, reach)
  camera.updateMatrixWorld()
  camera.updateProjectionMatrix()
  return Array.from({ length: 8 }, (_, i) =>
    new THREE.Vector3(
      i & 1 ? box.max.x : box.min.x,
      i & 2 ? box.max.y : box.min.y,
      i & 4 ? box.max.z : box.min.z,
    ).project(camera),
  )
}

describe('a box in the picture', () => {
  const shapes: [string, THREE.Box3][] = [
    ['a cube', new THREE.Box3(new THREE.Vector3(-1, -1, -1), new THREE.Vector3(1, 1, 1))],
    ['a sheet', new THREE.Box3(new THREE.Vector3(-3, 0, -3), new THREE.Vector3(3, 0, 3))],
    ['a millimetre', new THREE.Box3(new THREE.Vector3(5, 5, 5), new THREE.Vector3(5.001, 5.001, 5.001))],
    ['a kilometre', new THREE.Box3(new THREE.Vector3(0, 0, 0), new THREE.Vector3(1000, 10, 200))],
  ]
  for (const [name, box] of shapes)
    for (const aspect of [0.6, 1.8])
      it(`${name} fills it and is not cut, at ${aspect}`, () => {
        const seen = corners(box, new THREE.Vector3(1, 0.7, 1.3), aspect)
        const far = Math.max(...seen.map(({ x, y }) => Math.max(Math.abs(x) / 0.88, Math.abs(y) / 0.88)))
        expect(far).toBeGreaterThan(0.9)
        expect(far).toBeLessThan(1.05)
      })
})
