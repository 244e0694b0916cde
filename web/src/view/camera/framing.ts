/** How the camera gets a box into the picture. */
import * as THREE from 'three'

/** What of the picture's height and width is used. */
const FILLED = { tall: 0.88, wide: 0.88 }

/**
 * How far back a camera must go for every corner of a box to be in the picture, with a margin. Moves `center` so that the
 * picture of the box, which perspective makes larger in front, lies in the middle.
 */
export function reachFor(camera: THREE.PerspectiveCamera, box: THREE.Box3, center: THREE.Vector3): number {
  const half = Math.tan((camera.fov * Math.PI) / 360)
  const tall = half * FILLED.tall
  const wide = half * camera.aspect * FILLED.wide
  const turn = camera.quaternion.clone().invert()
  const corners = Array.from(
    { length: 8 },
    (_, i) =>
      new THREE.Vector3(i & 1 ? box.max.x : box.min.x, i & 2 ? box.max.y : box.min.y, i & 4 ? box.max.z : box.min.z),
  )
  let reach = 0
  for (let round = 0; round < 6; round++) {
    const seen = corners.map((corner) => corner.clone().sub(center).applyQuaternion(turn))
    reach = Math.max(...seen.map(({ x, y, z }) => z + Math.max(Math.abs(y) / tall, Math.abs(x) / wide)))
    const middle = (way: (corner: THREE.Vector3) => number) => {
      const ends = seen.map((corner) => way(corner) / Math.max(reach - corner.z, 1e-9))
      return ((Math.min(...ends) + Math.max(...ends)) / 2) * reach
    }
    center.add(
      new THREE.Vector3(
        middle((c) => c.x),
        middle((c) => c.y),
        0,
      ).applyQuaternion(camera.quaternion),
    )
  }
  return Math.max(reach, 1e-6)
}
