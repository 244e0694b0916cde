import * as THREE from 'three'
import type { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import { expect, test } from 'vitest'
import { eased, Glide } from './glide'

function made() {
  const camera = new THREE.PerspectiveCamera()
  camera.position.set(0, 0, 4)
  const controls = { target: new THREE.Vector3(), update: () => true } as unknown as OrbitControls
  let time = 0
  const waiting: (() => void)[] = []
  const glide = new Glide(
    camera,
    controls,
    () => time,
    (frame) => waiting.push(frame),
  )
  const pass = (ms: number) => {
    time += ms
    for (const frame of waiting.splice(0)) frame()
  }
  return { camera, controls, glide, pass }
}

test('a camera glides around what it looks at and ends where it was sent', () => {
  const { camera, controls, glide, pass } = made()
  glide.to(new THREE.Vector3(3, 0, 1), new THREE.Vector3(1, 0, 1))
  pass(130)
  expect(camera.position.distanceTo(controls.target)).toBeCloseTo(3, 6)
  expect(controls.target.x).toBeCloseTo(0.5, 6)
  pass(500)
  expect(camera.position.toArray().map((one) => Math.round(one * 1e6) / 1e6)).toEqual([3, 0, 1])
  expect(controls.target.toArray()).toEqual([1, 0, 1])
})

test('a glide ends when another one begins or the camera is taken hold of', () => {
  const { camera, glide, pass } = made()
  glide.to(new THREE.Vector3(8, 0, 0), new THREE.Vector3())
  pass(50)
  glide.stop()
  const held = camera.position.clone()
  pass(500)
  expect(camera.position.equals(held)).toBe(true)
  glide.to(new THREE.Vector3(0, 5, 0.001), new THREE.Vector3(), true)
  expect(camera.position.y).toBeCloseTo(5, 3)
})

test('where it goes is known on the way, and can be jumped to', () => {
  const { camera, glide, pass } = made()
  glide.to(new THREE.Vector3(0, 0, 9), new THREE.Vector3(0, 0, 1))
  pass(40)
  expect(glide.end.position.toArray()).toEqual([0, 0, 9])
  glide.finish()
  expect(camera.position.toArray()).toEqual([0, 0, 9])
  pass(500)
  expect(glide.end.target.toArray()).toEqual([0, 0, 1])
})

test('it begins and ends slowly', () => {
  expect([0, 0.5, 1].map(eased)).toEqual([0, 0.5, 1])
  expect(eased(0.01)).toBeLessThan(0.001)
})
