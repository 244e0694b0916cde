/** Colour gradients as the core evaluates them: stops of x and linear red, green, blue, alpha; linear between them. */
export type Stop = [number, number, number, number, number]

/** Linear light to an sRGB component in 0..255 (IEC 61966-2-1). */
function encode(value: number): number {
  const v = Math.min(Math.max(value, 0), 1)
  return Math.round(255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055))
}

function decode(byte: number): number {
  const v = byte / 255
  return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4
}

/** The colour at x, linear. */
export function colorAt(stops: Stop[], x: number): [number, number, number, number] {
  const after = stops.findIndex((stop) => stop[0] > x)
  if (after === 0 || stops.length === 1) return stops[0]!.slice(1) as [number, number, number, number]
  if (after < 0) return stops.at(-1)!.slice(1) as [number, number, number, number]
  const [a, b] = [stops[after - 1]!, stops[after]!]
  const t = (x - a[0]) / (b[0] - a[0])
  return [1, 2, 3, 4].map((i) => a[i]! + (b[i]! - a[i]!) * t) as [number, number, number, number]
}

/** A stop's colour as `#rrggbb`. */
export function toHex(color: readonly number[]): string {
  return (
    '#' +
    color
      .slice(0, 3)
      .map((part) => encode(part).toString(16).padStart(2, '0'))
      .join('')
  )
}

/** `#rrggbb` as linear light, rounded to five digits. */
export function fromHex(hex: string): [number, number, number] {
  return [1, 3, 5].map((at) => Math.round(decode(parseInt(hex.slice(at, at + 2), 16)) * 1e5) / 1e5) as [
    number,
    number,
    number,
  ]
}

/** A CSS picture of the gradient: sampled, since browsers blend in sRGB and the core in linear light. */
export function css(stops: Stop[]): string {
  const parts = Array.from({ length: 33 }, (_, i) => i / 32).map((x) => {
    const [r, g, b, a] = colorAt(stops, x)
    return `rgb(${encode(r)} ${encode(g)} ${encode(b)} / ${a}) ${x * 100}%`
  })
  return `linear-gradient(to right, ${parts.join(', ')})`
}

/** Move a stop; it stays between its neighbours. */
export function moveStop(stops: Stop[], index: number, x: number): Stop[] {
  const low = stops[index - 1]?.[0] ?? 0
  const high = stops[index + 1]?.[0] ?? 1
  const to = Math.round(Math.min(Math.max(x, low), high) * 1000) / 1000
  return stops.map((stop, i) => (i === index ? [to, ...stop.slice(1)] : stop) as Stop)
}

/** Add a stop that does not change the picture. */
export function addStop(stops: Stop[], x: number): Stop[] {
  const color = colorAt(stops, x).map((part) => Math.round(part * 1e5) / 1e5)
  return [...stops, [Math.round(x * 1000) / 1000, ...color] as Stop].sort((a, b) => a[0] - b[0])
}
