/** Scales of the curve editor: one per unit, so that metres and degrees share a picture. */

export interface Range {
  low: number
  high: number
}

/** The range of numbers with a little room; one number gets room around it. */
export function rangeOf(numbers: Iterable<number>): Range {
  let [low, high] = [Infinity, -Infinity]
  for (const number of numbers) {
    low = Math.min(low, number)
    high = Math.max(high, number)
  }
  if (low > high) return { low: 0, high: 1 }
  const room = high > low ? (high - low) * 0.1 : Math.max(Math.abs(low) * 0.5, 0.5)
  return { low: low - room, high: high + room }
}

/** Round numbers within a range, about so many. */
export function roundNumbers({ low, high }: Range, about: number): number[] {
  const rough = (high - low) / Math.max(about, 1)
  const power = 10 ** Math.floor(Math.log10(rough))
  const step = [1, 2, 5, 10].map((each) => each * power).find((each) => each >= rough) ?? 10 * power
  const first = Math.ceil(low / step - 1e-9)
  const last = Math.floor(high / step + 1e-9)
  return Array.from({ length: last - first + 1 }, (_, n) => Number(((first + n) * step).toPrecision(12)))
}

/** A number as short as the pixels allow that it stands for. */
export function rounded(value: number, perPixel: number): number {
  const digits = Math.max(0, -Math.floor(Math.log10(perPixel || 1)))
  return Number(value.toFixed(Math.min(digits, 12)))
}
