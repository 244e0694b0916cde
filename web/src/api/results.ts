/** The answers to looks at a node, as the evaluators give them. */
import type { BufferRef } from './buffers'

export const KINDS = ['point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'] as const
export type Kind = (typeof KINDS)[number]

export interface AttributeAbout {
  name: string
  type: string
  low?: number[]
  high?: number[]
  members?: number
  words?: string[]
  unit?: string
}

export interface Summary {
  counts: Record<string, number>
  attributes: Record<Kind, AttributeAbout[]>
  built_in: Record<Kind, string[]>
  bounds: [number[], number[]]
  pieces: number
  open_border_edges: number
}

export interface MeshLook {
  position: BufferRef
  normal: BufferRef
  corner_point: BufferRef
  triangle_corner: BufferRef
  triangle_face: BufferRef
  edge: BufferRef
  segment: BufferRef
  loose_point: BufferRef
  instances: { mesh: Omit<MeshLook, 'instances'>; matrix: BufferRef }[]
  bounds: [number[], number[]]
  own_point?: BufferRef
  own_edge?: BufferRef
}

export interface EdgesLook {
  kinds: BufferRef
  border: number
  crease: number
  crowded: number
  creases_are: string
}

export interface GroupsLook {
  kind: Kind
  values: BufferRef
  total: number
  groups: { name: string; members: number }[]
  left_out: number
}

export interface UvLook {
  values: BufferRef
  low: number[]
  high: number[]
}

export interface AttributeLook extends AttributeAbout {
  kind: Kind
  values: BufferRef
}

export interface NormalsLook {
  begin: BufferRef
  direction: BufferRef
}

export interface Rows {
  columns: { name: string; type: string; unit: string; built_in: boolean }[]
  index: number[]
  rows: unknown[][]
  total: number
  count: number
}

/** How one number of an attribute is spread over the elements; a flag has members, a text its words. */
export interface Spread {
  name: string
  part: number
  type: string
  count?: number
  bad?: number
  low?: number
  high?: number
  mean?: number
  deviation?: number
  bins?: number[]
  members?: number
  words?: number
  most?: { word: string; count: number }[]
}

/** A look that could not be taken. */
export interface LookError {
  error: { code: string; message: string }
}

export function isError(look: unknown): look is LookError {
  return typeof look === 'object' && look !== null && 'error' in look
}
