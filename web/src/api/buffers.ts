/** Arrays from the service, fetched once per content: an unchanged topology is not sent again. */

import type { components } from './schema'

export type BufferRef = components['schemas']['BufferRef']

export type Numbers = Float32Array | Uint32Array | Uint8Array

/** Bytes of arrays that are kept. */
const MOST_BYTES = 600e6
const WIDTHS: Record<string, number> = { u1: 1, u4: 4 }
const known = new Map<string, { bytes: number; numbers: Promise<Numbers> }>()
let bytesKnown = 0

/** Bytes that an array takes. */
export function sizeOf(ref: BufferRef): number {
  return ref.shape.reduce((product, count) => product * count, WIDTHS[ref.dtype] ?? 4)
}

/** Every array that an answer names, each once. */
export function arraysOf(answer: unknown): BufferRef[] {
  const found = new Map<string, BufferRef>()
  const walk = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return
    const ref = value as BufferRef
    if (typeof ref.digest === 'string' && typeof ref.dtype === 'string') found.set(ref.digest, ref)
    else Object.values(value).forEach(walk)
  }
  walk(answer)
  return [...found.values()]
}

/** Arrays that came over the line and were not asked for yet. */
const came = new Map<string, ArrayBuffer>()
let bytesCame = 0

/** Keep an array that came with an answer, until it is asked for. */
export function keepArray(digest: string, bytes: ArrayBuffer): void {
  bytesCame += bytes.byteLength - (came.get(digest)?.byteLength ?? 0)
  came.delete(digest)
  came.set(digest, bytes)
  for (const oldest of came.keys()) {
    if (bytesCame <= MOST_BYTES) return
    taken(oldest)
  }
}

/** Whether an array is here already, asked for or not. */
export const isHere = (digest: string) => known.has(digest) || came.has(digest)

function taken(digest: string): ArrayBuffer | undefined {
  const bytes = came.get(digest)
  bytesCame -= bytes?.byteLength ?? 0
  came.delete(digest)
  return bytes
}

/** Return the array that a reference names. */
export function fetchBuffer(ref: BufferRef): Promise<Numbers> {
  const there = known.get(ref.digest)
  if (there) {
    known.delete(ref.digest)
    known.set(ref.digest, there)
    return there.numbers
  }
  const numbers = load(ref).catch((error: unknown) => {
    forget(ref.digest)
    throw error
  })
  known.set(ref.digest, { bytes: sizeOf(ref), numbers })
  bytesKnown += sizeOf(ref)
  for (const oldest of known.keys()) {
    if (bytesKnown <= MOST_BYTES || oldest === ref.digest) break
    forget(oldest)
  }
  return numbers
}

function forget(digest: string): void {
  bytesKnown -= known.get(digest)?.bytes ?? 0
  known.delete(digest)
}

async function load(ref: BufferRef): Promise<Numbers> {
  if (ref.shape.includes(0)) return typed(ref.dtype, new ArrayBuffer(0))
  const there = taken(ref.digest)
  if (there) return typed(ref.dtype, there)
  const answer = await fetch(`/api/buffers/${ref.digest}`)
  if (!answer.ok) throw new Error('An array of the mesh could not be fetched.')
  return typed(ref.dtype, await answer.arrayBuffer())
}

function typed(dtype: string, bytes: ArrayBuffer): Numbers {
  if (dtype === 'u1') return new Uint8Array(bytes)
  return dtype === 'u4' ? new Uint32Array(bytes) : new Float32Array(bytes)
}
