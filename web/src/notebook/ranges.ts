/** One scale for several pictures: from the least to the most of all of them. */
import type { AttributeLook } from '../api/results'
import type { Wish } from './model'

/** The range that all looks lie in; null where there is one picture, or where lengths of vectors are shown. */
export function rangeOf(looks: readonly (AttributeLook | null)[], wish: Wish | null): [number, number] | null {
  const part = Math.max('xyzw'.indexOf(wish?.part || 'x'), 0)
  const there = looks.filter((look) => look?.low && look.high)
  if (there.length < 2 || wish?.part === 'length') return null
  const low = Math.min(...there.map((look) => look!.low![part] ?? 0))
  const high = Math.max(...there.map((look) => look!.high![part] ?? 0))
  return high > low ? [low, high] : null
}
