/** Colour gradients as the core evaluates them: stops of x and linear red, green, blue, alpha; straight if no step is
 * said. */
import { drawnAt, freeRange, knotsOf, stepOf, valueAt, withStep, type Step } from './profile'

type Rgba = [number, number, number, number]
export type Stop = [x: number, red: number, green: number, blue: number, alpha: number, step?: Step]

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
export function colorAt(stops: Stop[], x: number): Rgba {
  return valueAt(knotsOf(stops, 'straight'), x) as Rgba
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
  const parts = drawnAt(knotsOf(stops, 'straight'), 32).map((x) => {
    const [r, g, b, a] = colorAt(stops, x)
    return `rgb(${encode(r)} ${encode(g)} ${encode(b)} / ${a}) ${x * 100}%`
  })
  return `linear-gradient(to right, ${parts.join(', ')})`
}

const round = (value: number) => Math.round(value * 1000) / 1000

/** Move a stop; it stays between its neighbours, or meets one: a jump. */
export function moveStop(stops: Stop[], index: number, x: number): Stop[] {
  const [low, high] = freeRange(stops, index)
  const to = Math.min(Math.max(round(x), low), high)
  return stops.map((stop, i) => (i === index ? [to, ...stop.slice(1)] : stop) as Stop)
}

/** Add a stop that does not change the picture of straight and constant pieces; it goes on as the one before. */
export function addStop(stops: Stop[], x: number): Stop[] {
  const at = round(x)
  if (stops.filter((stop) => stop[0] === at).length > 1) return stops
  const color = colorAt(stops, at).map((part) => Math.round(part * 1e5) / 1e5)
  const before = stops.findLast((stop) => stop[0] <= at)
  const added = withStep([at, ...color], stepOf(before ?? [], 'straight'), 'straight')
  return [...stops, added as unknown as Stop].sort((a, b) => a[0] - b[0])
}
