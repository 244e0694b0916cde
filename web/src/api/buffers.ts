/** Arrays from the service, fetched once per content: an unchanged topology is not sent again. */

import type { components } from './schema'

export type BufferRef = components['schemas']['BufferRef']

export type Numbers = Float32Array | Uint32Array | Uint8Array

const KEPT = 60
const known = new Map<string, Promise<Numbers>>()

/** Arrays that came over the line and were not asked for yet. */
const came = new Map<string, ArrayBuffer>()

/** Keep an array that came with an answer, until it is asked for. */
export function keepArray(digest: string, bytes: ArrayBuffer): void {
  came.set(digest, bytes)
  while (came.size > KEPT) came.delete(came.keys().next().value as string)
}

/** Return the array that a reference names. */
export function fetchBuffer(ref: BufferRef): Promise<Numbers> {
  const there = known.get(ref.digest)
  if (there) {
    known.delete(ref.digest)
    known.set(ref.digest, there)
    return there
  }
  const made = load(ref).catch((error: unknown) => {
    known.delete(ref.digest)
    throw error
  })
  known.set(ref.digest, made)
  while (known.size > KEPT) known.delete(known.keys().next().value as string)
  return made
}

async function load(ref: BufferRef): Promise<Numbers> {
  if (ref.shape.includes(0)) return typed(ref.dtype, new ArrayBuffer(0))
  const there = came.get(ref.digest)
  if (there) {
    came.delete(ref.digest)
    return typed(ref.dtype, there)
  }
  const answer = await fetch(`/api/buffers/${ref.digest}`)
  if (!answer.ok) throw new Error('An array of the mesh could not be fetched.')
  return typed(ref.dtype, await answer.arrayBuffer())
}

function typed(dtype: string, bytes: ArrayBuffer): Numbers {
  if (dtype === 'u1') return new Uint8Array(bytes)
  return dtype === 'u4' ? new Uint32Array(bytes) : new Float32Array(bytes)
}
