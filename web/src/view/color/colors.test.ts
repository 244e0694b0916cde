import { describe, expect, it } from 'vitest'
import type { AttributeLook } from '../../api/results'
import { colorize, encode } from './colors'
import { sharedIndex, spread, type MeshData } from '../rendering/meshData'

const look = (about: Partial<AttributeLook>, shape: number[]): AttributeLook =>
  ({
    name: 'heat',
    type: 'number',
    kind: 'point',
    values: { digest: '', dtype: 'f4', shape },
    ...about,
  }) as AttributeLook

describe('false colour', () => {
  it('shows the real range, not that of 32-bit numbers', () => {
    const { legend } = colorize(look({ low: [0.1], high: [0.7] }, [3]), new Float32Array([0.1, 0.4, 0.7]), '')
    expect(legend).toMatchObject({ form: 'range', low: 0.1, high: 0.7 })
  })

  it('goes from dark to light', () => {
    const { colors } = colorize(look({}, [3]), new Float32Array([-1, 0, 1]), '')
    const light = [0, 1, 2].map((i) => colors[i * 3]! + colors[i * 3 + 1]! + colors[i * 3 + 2]!)
    expect(light[0]!).toBeLessThan(light[1]!)
    expect(light[1]!).toBeLessThan(light[2]!)
  })

  it('takes one component or the length of vectors', () => {
    const values = new Float32Array([3, 4, 0, 0, 0, 1])
    const about = look({ type: 'vec3', low: [0, 0, 0], high: [3, 4, 1] }, [2, 3])
    expect(colorize(about, values, 'y').legend).toMatchObject({ title: 'heat.y', low: 0, high: 4 })
    expect(colorize(about, values, 'length').legend).toMatchObject({ title: 'heat (length)', low: 1, high: 5 })
  })

  it('counts the members of groups and tints words', () => {
    expect(colorize(look({ type: 'flag' }, [4]), new Uint8Array([1, 0, 1, 1]), '').legend).toMatchObject({
      members: 3,
      total: 4,
    })
    expect(colorize(look({ type: 'text', words: ['a', 'b'] }, [2]), new Float32Array([0, 1]), '').legend).toMatchObject(
      { form: 'words' },
    )
  })

  it('shows colours as they are, encoded for the screen', () => {
    const { colors } = colorize(
      look({ name: 'color', type: 'vec4' }, [1, 4]),
      new Float32Array([1, 0.2140411, 0, 1]),
      '',
    )
    expect(colors[1]).toBeCloseTo(0.5, 4)
    expect(encode(2)).toBeCloseTo(1, 12)
  })
})

it('spreads values of points, corners and faces over triangles', () => {
  const mesh = {
    cornerPoint: new Uint32Array([0, 1, 2, 3]),
    triangleCorner: new Uint32Array([0, 1, 2, 0, 2, 3]),
    triangleFace: new Uint32Array([0, 0]),
  } as MeshData
  expect([...sharedIndex(mesh)]).toEqual([0, 1, 2, 0, 2, 3])
  expect([...spread(mesh, 'face', new Float32Array([7]), 1)]).toEqual([7, 7, 7, 7, 7, 7])
  expect([...spread(mesh, 'corner', new Float32Array([5, 6, 7, 8]), 1)]).toEqual([5, 6, 7, 5, 7, 8])
})
