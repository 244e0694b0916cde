import * as THREE from 'three'
import { expect, it } from 'vitest'
import { square } from '../../testing/meshes'
import { EdgeLines, endsOf } from './edgeLines'

const kinds = new Uint8Array([1, 0, 1, 2, 1, 3])

it('finds the ends of the edges of a kind', () => {
  expect([...endsOf(square(), kinds, 2)]).toEqual([0, 0, 0, 0, 1, 0])
  expect(endsOf(square(), kinds, 1)).toHaveLength(18)
  expect(endsOf(square(), new Uint8Array(6), 1)).toHaveLength(0)
})

it('draws a part for each kind that there is, and nothing for another mesh’s edges', () => {
  const lines = new EdgeLines()
  const edges = { kinds, counts: [3, 1, 1] as [number, number, number], creasesAre: '' }
  const mesh = square()
  lines.set(mesh, edges)
  expect(lines.children).toHaveLength(3)
  const before = lines.children[0]
  lines.set(mesh, edges)
  expect(lines.children[0]).toBe(before)
  lines.set(mesh, { ...edges, kinds: new Uint8Array([1]) })
  expect(lines.children).toHaveLength(0)
  lines.set(square(), { ...edges, kinds: new Uint8Array([0, 0, 0, 0, 0, 3]) })
  expect(lines.children).toHaveLength(1)
  lines.setColors([new THREE.Color('red'), new THREE.Color('green'), new THREE.Color('blue')])
  lines.dispose()
  expect(lines.children).toHaveLength(0)
})
