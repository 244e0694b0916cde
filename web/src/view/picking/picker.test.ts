import * as THREE from 'three'
import { describe, expect, it } from 'vitest'
import { square } from '../../testing/meshes'
import { nearest, Picker } from './picker'

const down = (x: number, y: number) => new THREE.Ray(new THREE.Vector3(x, y, 5), new THREE.Vector3(0, 0, -1))

describe('what lies under the pointer', () => {
  it('is a face with its nearest corner, point and edge', () => {
    const picker = new Picker()
    picker.set(square())
    const hit = picker.pick(down(0.9, 0.1))!
    expect(hit).toMatchObject({ face: 0, point: 1, corner: 1 })
    expect(hit.place.map((part) => Number(part.toFixed(6)))).toEqual([0.9, 0.1, 0])
    expect(picker.pick(down(1.4, 0.2))).toMatchObject({ face: 1, edge: 4 })
    expect(picker.pick(down(5, 5))).toBeNull()
  })

  it('is nothing without a mesh', () => {
    const picker = new Picker()
    expect(picker.cast(down(0, 0))).toBeNull()
    picker.set({ ...square(), triangleFace: new Uint32Array(0) })
    expect(picker.pick(down(0.5, 0.5))).toBeNull()
  })

  it('keeps its tree while the arrays are the same', () => {
    const picker = new Picker()
    const mesh = square()
    picker.set(mesh)
    expect(picker.pick(down(0.5, 0.5))).not.toBeNull()
    picker.set({ ...mesh, own: { point: new Uint32Array([9, 8, 7, 6, 5]), edge: new Uint32Array(6) } })
    expect(picker.pick(down(0.9, 0.1))!.point).toBe(8)
  })
})

it('finds the edge on which a place lies', () => {
  expect(nearest(square(), 0, new THREE.Vector3(0.5, 0.01, 0)).edge).toBe(0)
  expect(nearest(square(), 0, new THREE.Vector3(0.01, 0.5, 0)).edge).toBe(3)
})
