/** From looks to arrays that can be drawn. */
import { fetchBuffer } from '../../api/buffers'
import type { AttributeLook, DrawnMesh, Kind, MeshLook, NormalsLook } from '../../api/results'
import type { Placed } from './placed'

/** A mesh in arrays: triangles point at corners, corners at points. */
export interface MeshData {
  position: Float32Array
  normal: Float32Array
  cornerPoint: Uint32Array
  triangleCorner: Uint32Array
  triangleFace: Uint32Array
  edge: Uint32Array
  segment: Uint32Array
  loosePoint: Uint32Array
  /** Placed shapes: each is drawn once per matrix. */
  instances: Placed[]
  bounds: [number[], number[]]
  /** Of faces laid out by uv: which point and edge of the geometry a point and an edge of the layout are. */
  own: { point: Uint32Array; edge: Uint32Array } | null
}

export async function fetchMesh(look: DrawnMesh & Partial<MeshLook>): Promise<MeshData> {
  const own =
    look.own_point && look.own_edge
      ? {
          point: (await fetchBuffer(look.own_point)) as Uint32Array,
          edge: (await fetchBuffer(look.own_edge)) as Uint32Array,
        }
      : null
  const names = [
    'position',
    'normal',
    'corner_point',
    'triangle_corner',
    'triangle_face',
    'edge',
    'segment',
    'loose_point',
  ] as const
  const [position, normal, cornerPoint, triangleCorner, triangleFace, edge, segment, loosePoint] = await Promise.all(
    names.map((name) => fetchBuffer(look[name])),
  )
  const instances = await Promise.all(
    (look.instances ?? []).map(async (placed) => ({
      mesh: await fetchMesh(placed.mesh),
      matrix: (await fetchBuffer(placed.matrix)) as Float32Array,
      number: (await fetchBuffer(placed.number)) as Uint32Array,
    })),
  )
  return {
    position,
    normal,
    cornerPoint,
    triangleCorner,
    triangleFace,
    edge,
    segment,
    loosePoint,
    instances,
    bounds: look.bounds,
    own,
  } as MeshData
}

/** What was worked out from two arrays, kept as long as they are. */
const kept = new WeakMap<Uint32Array, WeakMap<Uint32Array, Uint32Array>>()

/** Return which point, corner or face each triangle corner takes its values from `(3T)`. */
export function sourceOf(
  mesh: Pick<MeshData, 'cornerPoint' | 'triangleCorner' | 'triangleFace'>,
  kind: Kind,
): Uint32Array {
  const { cornerPoint, triangleCorner, triangleFace } = mesh
  if (kind === 'corner') return triangleCorner
  const of = kind === 'face' ? triangleFace : cornerPoint
  const known = kept.get(of) ?? new WeakMap<Uint32Array, Uint32Array>()
  kept.set(of, known)
  const there = known.get(triangleCorner)
  if (there) return there
  const made = new Uint32Array(triangleCorner.length)
  if (kind === 'face') for (let i = 0; i < made.length; i++) made[i] = triangleFace[(i / 3) | 0]!
  else for (let i = 0; i < made.length; i++) made[i] = cornerPoint[triangleCorner[i]!]!
  known.set(triangleCorner, made)
  return made
}

/** Return the point of every triangle corner `(3T)`: the index of a mesh that shares points. */
export function sharedIndex(mesh: MeshData): Uint32Array {
  return sourceOf(mesh, 'point')
}

/** Spread values of points, corners or faces `(N, size)` over the triangle corners `(3T, size)`. */
export function spread<Values extends Float32Array | Int8Array | Uint8Array>(
  mesh: MeshData,
  kind: Kind,
  values: Values,
  size: 3 | 4 | 1,
): Values {
  const source = sourceOf(mesh, kind)
  const out = new (values.constructor as new (length: number) => Values)(source.length * size)
  if (size === 1) for (let i = 0; i < source.length; i++) out[i] = values[source[i]!]!
  else {
    for (let i = 0, to = 0; i < source.length; i++, to += size) {
      const from = source[i]! * size
      out[to] = values[from]!
      out[to + 1] = values[from + 1]!
      out[to + 2] = values[from + 2]!
      if (size === 4) out[to + 3] = values[from + 3]!
    }
  }
  return out
}

/** Take rows of values `(N, size)` by number. */
export function take(values: Float32Array, rows: Uint32Array, size: number): Float32Array {
  const out = new Float32Array(rows.length * size)
  for (let i = 0; i < rows.length; i++) for (let c = 0; c < size; c++) out[i * size + c] = values[rows[i]! * size + c]!
  return out
}

/** Return line ends `(2N, 3)` for vectors, the longest of them of the given length. */
export async function strokeLines(look: NormalsLook, length: number): Promise<Float32Array> {
  const [begin, direction] = await Promise.all([fetchBuffer(look.begin), fetchBuffer(look.direction)])
  const count = begin.length / 3
  let longest = 0
  for (let i = 0; i < count; i++)
    longest = Math.max(longest, Math.hypot(direction[i * 3]!, direction[i * 3 + 1]!, direction[i * 3 + 2]!))
  const scale = length / (longest || 1)
  const out = new Float32Array(count * 6)
  for (let i = 0; i < count; i++) {
    for (let c = 0; c < 3; c++) {
      out[i * 6 + c] = begin[i * 3 + c]!
      out[i * 6 + 3 + c] = begin[i * 3 + c]! + direction[i * 3 + c]! * scale
    }
  }
  return out
}

export async function fetchValues(look: AttributeLook) {
  return fetchBuffer(look.values)
}
