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

/** Turn the camera to look along an axis, at what it looked at. */
export function lookAlong(camera: THREE.PerspectiveCamera, controls: OrbitControls, direction: Direction): void {
  const far = camera.position.distanceTo(controls.target)
  camera.position.copy(controls.target).addScaledVector(new THREE.Vector3(...WAYS[direction]).normalize(), far)
  camera.up.set(0, 1, 0)
  controls.update()
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

export function goTo(camera: THREE.PerspectiveCamera, controls: OrbitControls, kept: Standpoint): void {
  setParallel(camera, controls, kept.parallel)
  controls.target.set(...kept.target)
  camera.position.set(...kept.position)
  controls.update()
}
