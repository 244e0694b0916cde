/** Values with keys, as the document holds them: they differ from frame to frame. */

export interface Key {
  frame: number
  value: unknown
  way?: 'smooth' | 'straight' | 'hold' | 'free'
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

/** How many keys there are, and where. */
export function keysInWords({ keys }: Keyed): string {
  const [first, last] = [keys[0]?.frame ?? 0, keys.at(-1)?.frame ?? 0]
  return keys.length === 1 ? `1 key at frame ${first}` : `${keys.length} keys, frames ${first} to ${last}`
}
