import * as THREE from 'three'
import type { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import { describe, expect, it } from 'vitest'
import { isParallel, placeAlong, setParallel, standpoint, stepped } from './cameras'
import { reachFor } from './framing'

function made(): [THREE.PerspectiveCamera, OrbitControls] {
  const camera = new THREE.PerspectiveCamera(38, 1.6, 0.01, 100)
  camera.position.set(1, 2, 3)
  const controls = {
    target: new THREE.Vector3(0, 0.5, 0),
    update() {
      camera.lookAt(this.target)
      camera.updateMatrixWorld()
    },
  }
  controls.update()
  return [camera, controls as unknown as OrbitControls]
}

/** How tall something of 1 m at the target is in the picture. */
function seen(camera: THREE.PerspectiveCamera, controls: OrbitControls): number {
  camera.updateMatrixWorld()
  const up = new THREE.Vector3(0, 1, 0).applyQuaternion(camera.quaternion).multiplyScalar(0.01)
  return controls.target.clone().add(up).project(camera).y * 100
}

describe('the camera', () => {
  it('looks along an axis from as far as before', () => {
    const [camera, controls] = made()
    const far = camera.position.distanceTo(controls.target)
    camera.position.copy(placeAlong(camera, controls, 'side'))
    controls.update()
    expect(camera.position.distanceTo(controls.target)).toBeCloseTo(far)
    expect(camera.getWorldDirection(new THREE.Vector3()).x).toBeCloseTo(-1)
  })

  it('keeps the size of what it looks at when rays become parallel', () => {
    const [camera, controls] = made()
    const before = seen(camera, controls)
    setParallel(camera, controls, true)
    expect(isParallel(camera)).toBe(true)
    expect(seen(camera, controls) / before).toBeCloseTo(1, 2)
    setParallel(camera, controls, false)
    expect(camera.position.toArray().map((part) => Number(part.toFixed(4)))).toEqual([1, 2, 3])
  })

  it('tells a standpoint by numbers that can be kept', () => {
    const [camera, controls] = made()
    setParallel(camera, controls, true)
    const kept = standpoint(camera, controls, 'crest')
    expect(kept).toMatchObject({ name: 'crest', target: [0, 0.5, 0], parallel: true })
    kept.position.forEach((part, axis) => expect(part).toBe(camera.position.toArray()[axis]))
  })

  it('turns around what it looks at, shifts along the picture and comes nearer', () => {
    const [camera, controls] = made()
    const far = camera.position.distanceTo(controls.target)
    const turned = stepped(camera, controls.target, { turn: [Math.PI, 0] })
    expect(turned.position.x).toBeCloseTo(-1)
    expect(turned.position.z).toBeCloseTo(-3)
    const above = stepped(camera, controls.target, { turn: [0, 9] })
    expect(above.position.y - 0.5).toBeCloseTo(far, 2)
    const shifted = stepped(camera, controls.target, { shift: [0.1, 0] })
    expect(shifted.target.distanceTo(controls.target)).toBeCloseTo(0.1 * far)
    const nearer = stepped(camera, controls.target, { nearer: 2 })
    expect(nearer.position.distanceTo(controls.target)).toBeCloseTo(far / 2)
  })

  it('gets every corner of a box into the picture, and one near its edge', () => {
    const [camera, controls] = made()
    const box = new THREE.Box3(new THREE.Vector3(-2, 0, -1), new THREE.Vector3(3, 0.4, 1))
    const center = box.getCenter(new THREE.Vector3())
    const way = camera.position.clone().sub(controls.target).normalize()
    const reach = reachFor(camera, box, center)
    camera.position.copy(center).addScaledVector(way, reach)
    camera.updateMatrixWorld()
    const spots = Array.from({ length: 8 }, (_, i) =>
      new THREE.Vector3(i & 1 ? 3 : -2, i & 2 ? 0.4 : 0, i & 4 ? 1 : -1).project(camera),
    )
    const most = Math.max(...spots.flatMap(({ x, y }) => [Math.abs(x), Math.abs(y)]))
    expect(most).toBeLessThan(0.95)
    expect(most).toBeGreaterThan(0.75)
  })
})
