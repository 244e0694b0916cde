/** What charts are made of: values counted in bins, five numbers of each group, and an even part of many elements. */

export interface Bins {
  low: number
  high: number
  counts: number[]
}

/** Count finite values in bins of equal width; a range without width has one bin. */
export function binned(values: ArrayLike<number>, bins: number): Bins {
  let low = Infinity
  let high = -Infinity
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!
    if (!Number.isFinite(value)) continue
    if (value < low) low = value
    if (value > high) high = value
  }
  if (low > high) return { low: 0, high: 0, counts: [] }
  const counts = new Array<number>(low === high ? 1 : bins).fill(0)
  const scale = low === high ? 0 : bins / (high - low)
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!
    if (Number.isFinite(value)) counts[Math.min(Math.floor((value - low) * scale), counts.length - 1)]! += 1
  }
  return { low, high, counts }
}

/** The least value, quartiles and the largest, by linear interpolation (Hyndman and Fan 1996, type 7); null without values. */
export function fiveNumbers(values: ArrayLike<number>): [number, number, number, number, number] | null {
  const sorted = Float64Array.from(Array.from(values).filter(Number.isFinite)).sort()
  if (!sorted.length) return null
  const at = (share: number) => {
    const place = share * (sorted.length - 1)
    const below = Math.floor(place)
    return sorted[below]! + (place - below) * (sorted[Math.min(below + 1, sorted.length - 1)]! - sorted[below]!)
  }
  return [at(0), at(0.25), at(0.5), at(0.75), at(1)]
}

/** Numbers of at most so many elements, evenly spread over all. */
export function evenly(count: number, most: number): number[] {
  const step = Math.max(count / most, 1)
  return Array.from({ length: Math.min(count, most) }, (_, i) => Math.floor(i * step))
}

/** The elements whose values lie within ranges: one range, or one for each of two arrays. */
export function within(arrays: ArrayLike<number>[], ranges: [number, number][]): number[] {
  const found: number[] = []
  for (let i = 0; i < (arrays[0]?.length ?? 0); i++)
    if (arrays.every((values, n) => values[i]! >= ranges[n]![0] && values[i]! <= ranges[n]![1])) found.push(i)
  return found
}
