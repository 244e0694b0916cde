import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { BufferRef } from '../../api/buffers'
import { byValues, choiceOf, keyOf } from '../../model/values/colorChoice'
import { tintGroups, tintPieces } from '../color/colors'
import { readLooks } from './resultPicture'
import { scaleFor } from '../color/scales'
import { useView, type ViewState } from '../../stores/useView'
import { queriesFor } from './resultQueries'

const arrays = new Map<string, ArrayLike<number> & { buffer: ArrayBufferLike }>()
let number = 0
function kept(values: Float32Array | Uint32Array | Uint8Array, shape: number[]): BufferRef {
  const digest = `a${number++}`
  arrays.set(digest, values)
  return { digest, dtype: values instanceof Float32Array ? 'f4' : values instanceof Uint8Array ? 'u1' : 'u4', shape }
}
beforeEach(() =>
  vi.stubGlobal('fetch', async (address: string) => ({
    ok: true,
    arrayBuffer: async () => arrays.get(address.split('/').at(-1)!)!.buffer,
  })),
)
afterEach(() => vi.unstubAllGlobals())

const triangle = (flat = false) => ({
  what: flat ? 'flat' : 'mesh',
  position: kept(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]), [3, 3]),
  normal: kept(new Float32Array(9), [3, 3]),
  corner_point: kept(new Uint32Array([0, 1, 2]), [3]),
  triangle_corner: kept(new Uint32Array([0, 1, 2]), [1, 3]),
  triangle_face: kept(new Uint32Array([0]), [1]),
  edge: kept(new Uint32Array([0, 1, 1, 2, 2, 0]), [3, 2]),
  segment: kept(new Uint32Array(0), [0, 2]),
  loose_point: kept(new Uint32Array(0), [0]),
  instances: [],
  bounds: [
    [0, 0, 0],
    [1, 1, 0],
  ],
  ...(flat
    ? { own_point: kept(new Uint32Array([2, 0, 1]), [3]), own_edge: kept(new Uint32Array([1, 2, 0]), [3]) }
    : {}),
})
const view = (more: Partial<ViewState>): ViewState => ({ ...useView(), ...more })

describe('queries and their answers', () => {
  it('ask only for what is shown', () => {
    expect(queriesFor(view({}), 'face').map((query) => query.as)).toEqual(['summary', 'mesh'])
    const all = view({ color: byValues('point', 'heat'), strokes: 'face|normal', labels: 'area', edges: 'kinds' })
    expect(queriesFor(all, 'face').map((query) => query.as)).toEqual([
      'summary',
      'mesh',
      'color',
      'strokes',
      'labels',
      'edges',
    ])
    expect(queriesFor({ ...all, flat: true }, 'face').map((query) => query.what)).toEqual([
      'summary',
      'flat',
      'attribute',
      'attribute',
    ])
  })

  it('become a picture of one moment', async () => {
    const state = view({ color: byValues('point', 'heat'), edges: 'kinds' })
    const heat = {
      what: 'attribute',
      name: 'heat',
      type: 'number',
      kind: 'point',
      low: [0],
      high: [2],
      values: kept(new Float32Array([0, 1, 2]), [3]),
    }
    const edges = {
      what: 'edges',
      kinds: kept(new Uint8Array([1, 1, 2]), [3]),
      border: 2,
      crease: 1,
      crowded: 0,
      creases_are: 'sharp',
    }
    const drawn = (await readLooks(
      queriesFor(state, 'face'),
      [{ what: 'summary', counts: {} }, triangle(), heat, edges] as never,
      state,
    ))!
    expect(drawn.tint).toMatchObject({ kind: 'point' })
    expect(drawn.legend).toMatchObject({ form: 'range', low: 0, high: 2 })
    expect(drawn.edges).toMatchObject({ counts: [2, 1, 0], creasesAre: 'sharp' })
    const scaled = (await readLooks(
      queriesFor(state, 'face'),
      [{ what: 'summary', counts: {} }, triangle(), heat, edges] as never,
      state,
      [0, 4],
    ))!
    expect(scaled.legend).toMatchObject({ from: 0, to: 4 })
    expect(scaled.tint!.colors).not.toEqual(drawn.tint!.colors)
  })

  it('say why a colour is missing and still show the shape', async () => {
    const state = view({ color: byValues('point', 'heat') })
    const drawn = (await readLooks(
      queriesFor(state, 'face'),
      [
        { what: 'summary', counts: {} },
        triangle(),
        { what: 'error', error: { code: 'geometry', message: 'no heat here' } },
      ] as never,
      state,
    ))!
    expect(drawn.tint).toBeNull()
    expect(drawn.trouble).toBe('no heat here')
  })

  it('say why there is no layout', async () => {
    const state = view({ flat: true })
    await expect(
      readLooks(
        queriesFor(state, 'face'),
        [
          { what: 'summary', counts: {} },
          { what: 'error', error: { code: 'geometry', message: 'no uv here' } },
        ] as never,
        state,
      ),
    ).rejects.toThrow('no uv here')
  })

  it('spread colours of points over the corners of a layout', async () => {
    const state = view({ flat: true, color: byValues('point', 'heat') })
    const heat = {
      what: 'attribute',
      name: 'heat',
      type: 'number',
      kind: 'point',
      low: [0],
      high: [2],
      values: kept(new Float32Array([0, 1, 2]), [3]),
    }
    const drawn = (await readLooks(
      queriesFor(state, 'face'),
      [{ what: 'summary', counts: {} }, triangle(true), heat] as never,
      state,
    ))!
    expect(drawn.tint!.kind).toBe('corner')
    const one = (await readLooks(
      queriesFor({ ...state, flat: false }, 'face'),
      [{ what: 'summary', counts: {} }, triangle(), heat] as never,
      { ...state, flat: false },
    ))!.tint!.colors
    expect([...drawn.tint!.colors.slice(0, 3)]).toEqual([...one.slice(6, 9)])
  })
})

describe('ways to colour the whole', () => {
  it('have keys that lead back to them', () => {
    for (const choice of [
      byValues('face', 'area'),
      byValues('point', 'move', 'length'),
      { how: 'groups', kind: 'edge', name: '', part: '' } as const,
    ]) {
      expect(choiceOf(keyOf(choice))).toEqual(choice)
    }
    expect(choiceOf('')).toBeNull()
    expect(keyOf(null)).toBe('')
  })

  it('show elements of several groups in the mean of their tints', () => {
    const look = {
      what: 'groups' as const,
      kind: 'face' as const,
      values: {} as BufferRef,
      total: 4,
      left_out: 0,
      groups: [
        { name: 'low', members: 2 },
        { name: 'rim', members: 2 },
      ],
    }
    const { colors, legend } = tintGroups(look, new Uint32Array([0, 1, 2, 3]))
    const at = (i: number) => [...colors.slice(i * 3, i * 3 + 3)]
    at(3).forEach((part, c) => expect(part).toBeCloseTo((at(1)[c]! + at(2)[c]!) / 2))
    expect(legend).toMatchObject({
      form: 'groups',
      total: 4,
      rows: [
        { name: 'low', members: 2 },
        { name: 'rim', members: 2 },
      ],
    })
  })

  it('count pieces and give each one hue', () => {
    const { colors, legend } = tintPieces(new Float32Array([0, 0, 7]))
    expect(legend).toMatchObject({ form: 'material', pieces: 2 })
    expect([...colors.slice(0, 3)]).toEqual([...colors.slice(3, 6)])
    expect([...colors.slice(6)]).not.toEqual([...colors.slice(0, 3)])
  })

  it('give pieces distinct tints, and values an even scale again', () => {
    expect(scaleFor('piece', 'warm')).toBe('distinct')
    expect(scaleFor('heat', 'distinct')).toBe('even')
    expect(scaleFor('heat', 'signed')).toBe('signed')
  })
})
