/** How numbers are written in the interface. */

/** A whole number in groups, e.g. 22,922; by hand, since the first use of the locale's data takes longer than a picture. */
export function count(value: number): string {
  if (!Number.isInteger(value)) return value.toLocaleString('en-US')
  return String(value).replace(/\B(?=(\d{3})+$)/g, ',')
}

/** A difference with its sign; empty for none. */
export function change(value: number): string {
  return value === 0 ? '' : `${value > 0 ? '+' : '−'}${count(Math.abs(value))}`
}

/** A difference in at most four signs, e.g. +17k. */
export function shortChange(value: number): string {
  const size = Math.abs(value)
  const text =
    size < 10_000 ? count(size) : size < 999_500 ? `${Math.round(size / 1000)}k` : `${(size / 1e6).toFixed(1)}M`
  return value === 0 ? '' : `${value > 0 ? '+' : '−'}${text}`
}

/** A measured number in about four digits, without tails of zeros. */
export function short(value: number): string {
  if (!Number.isFinite(value)) return '–'
  if (Number.isInteger(value) && Math.abs(value) < 1e7) return String(value)
  const size = Math.abs(value)
  if (size !== 0 && (size < 1e-3 || size >= 1e6)) return value.toExponential(2)
  return String(Number(value.toPrecision(4)))
}

/** A duration in ms or s. */
export function duration(seconds: number): string {
  if (seconds < 0.0005) return '<1 ms'
  return seconds < 1 ? `${Math.round(seconds * 1000)} ms` : `${seconds.toFixed(seconds < 10 ? 2 : 1)} s`
}

/** The number that was typed; null for nothing, and for what is none. */
export function typedNumber(text: string): number | null {
  return text.trim() !== '' && Number.isFinite(Number(text)) ? Number(text) : null
}
