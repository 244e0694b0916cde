/** Values with keys, as the document holds them: they differ from frame to frame. All functions leave what they get. */

export const WAYS = ['smooth', 'straight', 'hold', 'free'] as const
export const OUTSIDE = ['hold', 'repeat', 'swing', 'go on'] as const
export type Way = (typeof WAYS)[number]

export interface Key {
  frame: number
  value: unknown
  way?: Way
  /** Slopes per frame where the way is free. */
  in?: unknown
  out?: unknown
}

export interface Keyed {
  keys: Key[]
  before?: string
  after?: string
}

export function isKeyed(value: unknown): value is Keyed {
  if (typeof value !== 'object' || value === null || !Array.isArray((value as Keyed).keys)) return false
  const known = Object.keys(value).every((name) => ['keys', 'before', 'after'].includes(name))
  return known && (value as Keyed).keys.every((key) => typeof key === 'object' && key !== null && !Array.isArray(key))
}

/** Widgets of parameters whose values may have keys. */
const KEYABLE = ['number', 'integer', 'toggle', 'vector', 'color', 'choice', 'places', 'varying']

/** Whether a plain value, of a parameter that is shown like this, can have keys. */
export function canHaveKeys(widget: string, value: unknown): boolean {
  if (!KEYABLE.includes(widget)) return false
  if (Array.isArray(value)) return value.every((part) => typeof part === 'number' || Array.isArray(part))
  return ['number', 'boolean'].includes(typeof value) || (widget === 'choice' && typeof value === 'string')
}

/** How many keys there are, and where. */
export function keysInWords({ keys }: Keyed): string {
  const [first, last] = [keys[0]?.frame ?? 0, keys.at(-1)?.frame ?? 0]
  return keys.length === 1 ? `1 key at frame ${first}` : `${keys.length} keys, frames ${first} to ${last}`
}

export function keyAt(keyed: Keyed, frame: number): Key | undefined {
  return keyed.keys.find((key) => key.frame === frame)
}

/** The value of the last key up to a frame, else of the first one. */
export function heldAt({ keys }: Keyed, frame: number): unknown {
  return (keys.findLast((key) => key.frame <= frame) ?? keys[0])?.value
}

/** With a key of this value at this frame; one that is there keeps its way. A new one goes on as the one before it. */
export function withKey(keyed: Keyed, frame: number, value: unknown): Keyed {
  const there = keyAt(keyed, frame)
  const before = keyed.keys.findLast((key) => key.frame < frame)
  const made: Key = there ? { ...there, value } : { frame, value, ...(before?.way ? { way: before.way } : {}) }
  return sorted(keyed, [...keyed.keys.filter((key) => key !== there), made])
}

/** Without the keys at these frames; the value of the last one that goes, where none is left. */
export function withoutKeys(keyed: Keyed, frames: readonly number[]): unknown {
  const left = keyed.keys.filter((key) => !frames.includes(key.frame))
  return left.length ? { ...keyed, keys: left } : keyed.keys.at(-1)?.value
}

/** With the keys at these frames elsewhere; a key that is met there is replaced. */
export function movedKeys(keyed: Keyed, frames: readonly number[], to: (frame: number) => number): Keyed {
  return replaced(keyed, frames, (key) => ({ ...key, frame: to(key.frame) }), true)
}

/** With copies of the keys at these frames, so many frames later. */
export function copiedKeys(keyed: Keyed, frames: readonly number[], later: number): Keyed {
  return replaced(keyed, frames, (key) => ({ ...key, frame: key.frame + later }), false)
}

/** With the keys at these frames changed in another way than their place. */
export function changedKeys(keyed: Keyed, frames: readonly number[], change: (key: Key) => Key): Keyed {
  return { ...keyed, keys: keyed.keys.map((key) => (frames.includes(key.frame) ? change(key) : key)) }
}

function replaced(keyed: Keyed, frames: readonly number[], make: (key: Key) => Key, away: boolean): Keyed {
  const chosen = keyed.keys.filter((key) => frames.includes(key.frame))
  const made = [...new Map(chosen.map(make).map((key) => [key.frame, key])).values()]
  const met = new Set(made.map((key) => key.frame))
  const rest = keyed.keys.filter((key) => !(away && chosen.includes(key)) && !met.has(key.frame))
  return sorted(keyed, [...rest, ...made])
}

function sorted(keyed: Keyed, keys: Key[]): Keyed {
  return { ...keyed, keys: keys.sort((a, b) => a.frame - b.frame) }
}
