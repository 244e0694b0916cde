/** Where the camera stands: along an axis, as it was kept, with perspective or (nearly) parallel rays. */
import * as THREE from 'three'
import type { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'

export type Direction = 'front' | 'side' | 'top' | 'corner'

export interface Standpoint {
  name: string
  position: [number, number, number]
  target: [number, number, number]
  parallel: boolean
}

const WAYS: Record<Direction, [number, number, number]> = {
  front: [0, 0, 1],
  side: [1, 0, 0],
  top: [0, 1, 0.0001],
  corner: [0.48, 0.5, 0.72],
}
const WIDE = 38
/** Parallel rays are those of a camera very far away: half a degree wide. */
const NARROW = 0.5

/** Return where the camera stands to look along an axis, as far off as it is, at what it looks at. */
export function placeAlong(
  camera: THREE.PerspectiveCamera,
  controls: OrbitControls,
  direction: Direction,
): THREE.Vector3 {
  const far = camera.position.distanceTo(controls.target)
  return controls.target.clone().addScaledVector(new THREE.Vector3(...WAYS[direction]).normalize(), far)
}

/** Return position and target after a step: turned by angles (radians, to the right and up), shifted by shares of the distance, or nearer by a factor. */
export function stepped(
  camera: THREE.PerspectiveCamera,
  target: THREE.Vector3,
  { turn = [0, 0], shift = [0, 0], nearer = 1 }: { turn?: [number, number]; shift?: [number, number]; nearer?: number },
): { position: THREE.Vector3; target: THREE.Vector3 } {
  const arm = new THREE.Spherical().setFromVector3(camera.position.clone().sub(target))
  arm.theta += turn[0]
  arm.phi = Math.min(Math.max(arm.phi - turn[1], 0.01), Math.PI - 0.01)
  const far = arm.radius
  arm.radius = far / nearer
  const moved = new THREE.Vector3(shift[0] * far, shift[1] * far, 0).applyQuaternion(camera.quaternion)
  const at = target.clone().add(moved)
  return { position: at.clone().add(new THREE.Vector3().setFromSpherical(arm)), target: at }
}

export function isParallel(camera: THREE.PerspectiveCamera): boolean {
  return camera.fov < WIDE / 2
}

/** Change between perspective and parallel rays; what stands at the target keeps its size in the picture. */
export function setParallel(camera: THREE.PerspectiveCamera, controls: OrbitControls, parallel: boolean): void {
  const fov = parallel ? NARROW : WIDE
  if (camera.fov === fov) return
  const half = (angle: number) => Math.tan((angle * Math.PI) / 360)
  const far = camera.position.distanceTo(controls.target)
  const next = (far * half(camera.fov)) / half(fov)
  const way = camera.position.clone().sub(controls.target).normalize()
  camera.position.copy(controls.target).addScaledVector(way, next)
  camera.fov = fov
  camera.near = parallel ? next * 0.5 : next / 1000
  camera.far = parallel ? next * 2 : next * 100
  camera.updateProjectionMatrix()
  controls.update()
}

export function standpoint(camera: THREE.PerspectiveCamera, controls: OrbitControls, name: string): Standpoint {
  return { name, position: camera.position.toArray(), target: controls.target.toArray(), parallel: isParallel(camera) }
}
