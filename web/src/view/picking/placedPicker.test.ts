import * as THREE from 'three'
import { describe, expect, it } from 'vitest'
import { square } from '../../testing/meshes'
import type { MeshData } from '../rendering/meshData'
import { ChosenParts } from '../rendering/chosenParts'
import { Picker } from './picker'
import { centers } from './within'

const down = (x: number, y: number) => new THREE.Ray(new THREE.Vector3(x, y, 5), new THREE.Vector3(0, 0, -1))
const at = (x: number, z: number, scale = 1) =>
  new THREE.Matrix4()
    .compose(new THREE.Vector3(x, 0, z), new THREE.Quaternion(), new THREE.Vector3().setScalar(scale))
    .toArray()

/** A square, and copies of it: number 1 beside it twice as large, number 0 above it. */
function scene(): MeshData {
  return {
    ...square(),
    instances: [
      { mesh: square(), matrix: new Float32Array([...at(10, 0, 2), ...at(0, 2)]), number: new Uint32Array([1, 0]) },
    ],
  }
}

describe('instances under the pointer', () => {
  it('are picked where they are nearer than the mesh, under their own matrix', () => {
    const picker = new Picker()
    picker.set(scene())
    expect(picker.pick(down(0.5, 0.5))).toMatchObject({ instance: 0, face: -1 })
    expect(picker.pick(down(11.9, 1.9))).toMatchObject({ instance: 1 })
    expect(picker.pick(down(13.8, 1.9)), 'beside the triangle of the copy').toBeNull()
    expect(picker.placeOn(down(0.5, 0.5))!.z).toBeCloseTo(2)
    picker.set({ ...scene(), instances: [] })
    expect(picker.pick(down(0.5, 0.5))).toMatchObject({ instance: -1, face: 0 })
  })

  it('have middles, and are marked where they stand', () => {
    const middles = centers(scene(), 'instance')
    expect([...middles]).toEqual([1, 0.5, 2, 12, 1, 0])
    const parts = new ChosenParts()
    parts.set(scene(), 'instance', new Set([1]))
    const [low, high] = parts.box('instance')!
    expect(low[0]).toBeLessThan(10)
    expect(high[0]).toBeGreaterThan(14)
    expect(low[0]).toBeGreaterThan(8)
    parts.set(scene(), 'face', new Set([0]))
    expect(parts.box('instance')).toBeNull()
  })
})
