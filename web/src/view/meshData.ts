/** From looks to arrays that can be drawn. */
import { fetchBuffer } from '../api/buffers'
import type { AttributeLook, Kind, MeshLook, NormalsLook } from '../api/looks'

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
  /** Placed shapes: each is drawn once per matrix (16 numbers, column by column). */
  instances: { mesh: MeshData; matrix: Float32Array }[]
  bounds: [number[], number[]]
  /** Of faces laid out by uv: which point and edge of the geometry a point and an edge of the layout are. */
  own: { point: Uint32Array; edge: Uint32Array } | null
}

export async function fetchMesh(look: Omit<MeshLook, 'instances'> & Partial<MeshLook>): Promise<MeshData> {
  const own = look.own_point && look.own_edge ? { point: (await fetchBuffer(look.own_point)) as Uint32Array, edge: (await fetchBuffer(look.own_edge)) as Uint32Array } : null
  const names = ['position', 'normal', 'corner_point', 'triangle_corner', 'triangle_face', 'edge', 'segment', 'loose_point'] as const
  const [position, normal, cornerPoint, triangleCorner, triangleFace, edge, segment, loosePoint] = await Promise.all(
    names.map((name) => fetchBuffer(look[name])),
  )
  const instances = await Promise.all(
    (look.instances ?? []).map(async (placed) => ({ mesh: await fetchMesh(placed.mesh), matrix: (await fetchBuffer(placed.matrix)) as Float32Array })),
  )
  return { position, normal, cornerPoint, triangleCorner, triangleFace, edge, segment, loosePoint, instances, bounds: look.bounds, own } as MeshData
}

/** Return the point of every triangle corner `(3T)`: the index of a mesh that shares points. */
export function sharedIndex(mesh: MeshData): Uint32Array {
  const index = new Uint32Array(mesh.triangleCorner.length)
  for (let i = 0; i < index.length; i++) index[i] = mesh.cornerPoint[mesh.triangleCorner[i]!]!
  return index
}

/** Spread values of points, corners or faces `(N, size)` over the triangle corners `(3T, size)`. */
export function spread<Values extends Float32Array | Int8Array>(mesh: MeshData, kind: Kind, values: Values, size: number): Values {
  const count = mesh.triangleCorner.length
  const out = new (values.constructor as new (length: number) => Values)(count * size)
  for (let i = 0; i < count; i++) {
    const corner = mesh.triangleCorner[i]!
    const from = kind === 'corner' ? corner : kind === 'face' ? mesh.triangleFace[(i / 3) | 0]! : mesh.cornerPoint[corner]!
    for (let c = 0; c < size; c++) out[i * size + c] = values[from * size + c]!
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
  for (let i = 0; i < count; i++) longest = Math.max(longest, Math.hypot(direction[i * 3]!, direction[i * 3 + 1]!, direction[i * 3 + 2]!))
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
