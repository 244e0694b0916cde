import * as THREE from 'three'
import { beforeEach, describe, expect, it } from 'vitest'
import { drawnAs, facesIndex } from './chosenParts'
import { Dots } from './dots'
import { endsOf } from './edgeLines'
import type { MeshData } from './meshData'
import { Picture, type Tint } from './picture'
import { nearest, Picker } from '../picking/picker'
import { meshOf } from '../../testing/meshes'

/** Two squares side by side: points 0 1 2 / 3 4 5, faces 0 (left) and 1 (right). */
function squares(): MeshData {
  return meshOf({
    position: new Float32Array([0, 0, 0, 1, 0, 0, 2, 0, 0, 0, 1, 0, 1, 1, 0, 2, 1, 0]),
    normal: new Float32Array(Array.from({ length: 6 }, () => [0, 0, 1]).flat()),
    cornerPoint: new Uint32Array([0, 1, 4, 3, 1, 2, 5, 4]),
    triangleCorner: new Uint32Array([0, 1, 2, 0, 2, 3, 4, 5, 6, 4, 6, 7]),
    triangleFace: new Uint32Array([0, 0, 1, 1]),
    edge: new Uint32Array([0, 1, 1, 4, 4, 3, 3, 0, 1, 2, 2, 5, 5, 4]),
  })
}
const tint = (kind: Tint['kind'], count: number, more: Partial<Tint> = {}): Tint => ({
  kind,
  colors: new Float32Array(count * 3).fill(0.5),
  depth: 0.3,
  ...more,
})

describe('a picture', () => {
  let picture: Picture
  const surface = () => picture.surface.geometry
  beforeEach(() => (picture = new Picture()))

  it('shares points where colours allow it', () => {
    picture.show({ mesh: squares(), tint: null, edges: null, radii: null })
    expect(surface().getAttribute('position').count).toBe(6)
    picture.show({ mesh: squares(), tint: tint('face', 2), edges: null, radii: null })
    expect(surface().getAttribute('position').count).toBe(12)
    expect(surface().index).toBeNull()
  })

  it('uploads nothing but colours when only those change', () => {
    const mesh = squares()
    picture.show({ mesh, tint: tint('face', 2), edges: null, radii: null })
    const before = [surface(), surface().getAttribute('position'), surface().getAttribute('tone')]
    picture.show({ mesh: { ...mesh }, tint: tint('face', 2), edges: null, radii: null })
    expect(surface()).toBe(before[0])
    expect(surface().getAttribute('position')).toBe(before[1])
    expect(surface().getAttribute('tone')).not.toBe(before[2])
    picture.show({
      mesh: { ...mesh, position: mesh.position.slice() },
      tint: tint('face', 2),
      edges: null,
      radii: null,
    })
    expect(surface()).not.toBe(before[0])
  })

  it('gives points their colours where there are no faces to have them', () => {
    const dots = () => picture.children.find((part) => part instanceof Dots)!
    const none = new Uint32Array(0)
    const faceless = { cornerPoint: none, triangleCorner: none, triangleFace: none, edge: none }
    const cloud = meshOf({ ...faceless, position: new Float32Array(6), normal: new Float32Array(6) })
    picture.show({ mesh: cloud, tint: tint('point', 2), edges: null, radii: null })
    expect([dots().visible, dots().material.uniforms.tinted!.value]).toEqual([true, 1])
    picture.show({ mesh: squares(), tint: tint('point', 6), edges: null, radii: null })
    expect([dots().visible, dots().material.uniforms.tinted!.value]).toEqual([false, 0])
  })

  it('is a checker, a material or plain colours', () => {
    const { uniforms } = picture.material
    const drawn = () => Object.keys(picture.material.defines)
    const mesh = squares()
    picture.show({ mesh, tint: tint('corner', 8, { as: 'checker' }), edges: null, radii: null })
    expect([drawn(), uniforms.useTone!.value]).toEqual([['CHECKER'], 1])
    picture.show({ mesh, tint: tint('face', 2, { as: 'material' }), edges: null, radii: null })
    expect(drawn()).toEqual(['GRAIN'])
    expect(uniforms.grain!.value).toBeGreaterThan(0)
    picture.show({ mesh, tint: null, edges: null, radii: null })
    expect([drawn(), uniforms.useTone!.value]).toEqual([[], 0])
  })

  it('draws points as large as they are, in their colours where faces are not drawn', () => {
    const radii = new Float32Array(6).fill(0.1)
    picture.setShown({ faces: false, wire: false, points: true, smooth: false })
    picture.show({ mesh: squares(), tint: tint('point', 6), edges: null, radii })
    const dots = picture.children.find((part) => part instanceof Dots) as Dots
    expect(dots.geometry.getAttribute('radius').count).toBe(6)
    expect([dots.visible, dots.material.uniforms.sized!.value, dots.material.uniforms.tinted!.value]).toEqual([
      true,
      1,
      1,
    ])
    picture.show({ mesh: squares(), tint: null, edges: null, radii: null })
    expect(dots.geometry.hasAttribute('radius')).toBe(false)
    expect([dots.material.uniforms.sized!.value, dots.material.uniforms.tinted!.value]).toEqual([0, 0])
  })

  it('is empty without a mesh', () => {
    picture.show({ mesh: squares(), tint: tint('point', 6), edges: null, radii: null })
    picture.show({ mesh: null, tint: null, edges: null, radii: null })
    expect(surface().getAttribute('position').count).toBe(0)
    expect(picture.mesh).toBeNull()
  })
})

describe('parts of a picture', () => {
  it('takes the ends of the edges of one kind', () => {
    const kinds = new Uint8Array([1, 0, 1, 0, 2, 0, 0])
    expect([...endsOf(squares(), kinds, 1)]).toEqual([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0])
    expect(endsOf(squares(), kinds, 2)).toHaveLength(6)
    expect(endsOf(squares(), kinds, 3)).toHaveLength(0)
  })

  it('marks the triangles of picked faces', () => {
    expect(facesIndex(squares(), new Set([1]))).toEqual([1, 2, 5, 1, 5, 4])
  })

  it('marks an element in a layout wherever it is drawn', () => {
    expect(drawnAs(new Set([4, 9]), undefined, 6)).toEqual([4])
    expect(drawnAs(new Set([4]), new Uint32Array([0, 1, 4, 3, 1, 2, 5, 4]), 8)).toEqual([2, 7])
  })
})

describe('picking', () => {
  const down = (x: number, y: number) => new THREE.Ray(new THREE.Vector3(x, y, 5), new THREE.Vector3(0, 0, -1))

  it('finds the face under a ray and what of it is nearest', async () => {
    const picker = new Picker()
    picker.set(squares())
    await picker.ready()
    expect(picker.pick(down(1.9, 0.45))).toMatchObject({ face: 1, point: 2, corner: 5, edge: 5 })
    expect(picker.pick(down(0.1, 0.9))).toMatchObject({ face: 0, point: 3, corner: 3 })
    expect(picker.pick(down(3, 3))).toBeNull()
  })

  it('tells the elements of the geometry from those of a layout', async () => {
    const picker = new Picker()
    const own = {
      point: new Uint32Array([10, 11, 12, 13, 14, 15]),
      edge: new Uint32Array([20, 21, 22, 23, 24, 25, 26]),
    }
    picker.set({ ...squares(), own })
    expect(picker.pick(down(1.9, 0.45))).toMatchObject({ face: 1, point: 12, edge: 25 })
  })

  it('has nothing to hit without faces', async () => {
    const picker = new Picker()
    picker.set({ ...squares(), triangleFace: new Uint32Array(0), triangleCorner: new Uint32Array(0) })
    await picker.ready()
    expect(picker.cast(down(1, 0.5))).toBeNull()
  })

  it('measures to the sides of a face', () => {
    expect(nearest(squares(), 0, new THREE.Vector3(0.5, 0.05, 0))).toMatchObject({ edge: 0 })
    expect(nearest(squares(), 0, new THREE.Vector3(0.95, 0.5, 0))).toMatchObject({ edge: 1 })
  })
})
