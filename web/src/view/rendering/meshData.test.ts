import { describe, expect, it } from 'vitest'
import { fakeService } from '../../testing/fakeService'
import { square } from '../../testing/meshes'
import { fetchMesh, sharedIndex, sourceOf, spread, strokeLines, take } from './meshData'

describe('values spread over the corners of triangles', () => {
  const mesh = square()

  it('come from points, corners or faces', () => {
    expect([...sharedIndex(mesh)]).toEqual([0, 1, 2, 0, 2, 3, 1, 4, 2])
    expect([...sourceOf(mesh, 'face')]).toEqual([0, 0, 0, 0, 0, 0, 1, 1, 1])
    expect(sourceOf(mesh, 'corner')).toBe(mesh.triangleCorner)
    expect([...spread(mesh, 'face', new Float32Array([5, 7]), 1)]).toEqual([5, 5, 5, 5, 5, 5, 7, 7, 7])
    const rgb = spread(
      mesh,
      'point',
      new Uint8Array(15).map((_, i) => i),
      3,
    )
    expect([...rgb.slice(3, 6)]).toEqual([3, 4, 5])
  })

  it('are worked out once for the same arrays', () => {
    expect(sourceOf(mesh, 'point')).toBe(sourceOf({ ...mesh }, 'point'))
    expect(sourceOf(square(), 'point')).not.toBe(sourceOf(mesh, 'point'))
  })
})

it('takes rows by number', () => {
  expect([...take(new Float32Array([0, 1, 2, 3, 4, 5]), new Uint32Array([2, 0]), 2)]).toEqual([4, 5, 0, 1])
})

it('draws the longest stroke as long as it is told', async () => {
  const arrays: Record<string, Float32Array> = {
    begin: new Float32Array([0, 0, 0, 1, 0, 0]),
    way: new Float32Array([0, 2, 0, 0, 0, 4]),
  }
  fakeService(({ path }) => ({ body: arrays[path.split('/').at(-1)!]!.buffer }))
  const ref = (digest: string) => ({ digest, dtype: 'f4', shape: [2, 3] })
  const ends = await strokeLines({ what: 'normals', begin: ref('begin'), direction: ref('way') }, 0.1)
  expect([...ends].map((part) => Number(part.toFixed(3)))).toEqual([0, 0, 0, 0, 0.05, 0, 1, 0, 0, 1, 0, 0.1])
})

it('fetches a mesh with the shapes that are placed on it', async () => {
  fakeService(() => ({ body: new ArrayBuffer(64) }))
  const names = ['position', 'normal', 'corner_point', 'triangle_corner', 'triangle_face', 'edge', 'segment'] as const
  const look = Object.fromEntries(
    [...names, 'loose_point'].map((name) => [name, { digest: `mesh ${name}`, dtype: 'f4', shape: [16] }]),
  ) as never
  const placed = {
    mesh: { ...(look as object), bounds: [] },
    matrix: { digest: 'matrix', dtype: 'f4', shape: [16] },
    number: { digest: 'number', dtype: 'u4', shape: [1] },
  }
  const mesh = await fetchMesh({ ...(look as object), bounds: [[0], [1]], instances: [placed] } as never)
  expect(mesh.position).toHaveLength(16)
  expect(mesh.instances[0]!.matrix).toHaveLength(16)
  expect(mesh.instances[0]!.mesh.instances).toEqual([])
  expect(mesh.own).toBeNull()
})
