/** Scales of false colour: even ones for amounts, one about zero for signed values, distinct tints for numbers that name things. */
import type { ScaleName } from '../../stores/useView'
import { interpolateCividis, interpolateInferno, interpolatePuOr, interpolateViridis } from 'd3-scale-chromatic'

export type Rgb = [number, number, number]

export const SCALES: { name: ScaleName; help: string }[] = [
  { name: 'even', help: 'even steps look even, dark is low' },
  { name: 'warm', help: 'black to yellow, for heat and cover' },
  { name: 'calm', help: 'blue to yellow, also for eyes that see fewer hues' },
  { name: 'signed', help: 'two hues about zero, for values above and below it' },
  { name: 'distinct', help: 'another tint for each whole number, for pieces and labels' },
]

/** The scale that fits what is chosen: numbers that name things get distinct tints, and lose them again. */
export function scaleFor(name: string, now: ScaleName): ScaleName {
  if (name === 'piece') return 'distinct'
  return now === 'distinct' ? 'even' : now
}

const STEPS = 256
const tables = new Map<ScaleName, Rgb[]>()

function parse(text: string): Rgb {
  const hex = /^#(..)(..)(..)$/.exec(text)
  if (hex) return [hex[1]!, hex[2]!, hex[3]!].map((part) => parseInt(part, 16) / 255) as Rgb
  return text.match(/\d+/g)!.map((part) => Number(part) / 255) as Rgb
}

function table(name: ScaleName): Rgb[] {
  const known = tables.get(name)
  if (known) return known
  const interpolate = {
    even: interpolateViridis,
    warm: interpolateInferno,
    calm: interpolateCividis,
    signed: (t: number) => interpolatePuOr(1 - t),
    distinct: interpolateViridis,
  }[name]
  const made = Array.from({ length: STEPS }, (_, i) => parse(interpolate(i / (STEPS - 1))))
  tables.set(name, made)
  return made
}

/** The colour at a share 0..1 of a scale. */
export function colorAt(name: ScaleName, share: number): Rgb {
  const at = Number.isFinite(share) ? share : 0
  return table(name)[Math.min(STEPS - 1, Math.max(0, Math.floor(at * STEPS)))]!
}

/** The range that a scale covers: about zero for signed values. */
export function covered(name: ScaleName, low: number, high: number): [number, number] {
  if (name !== 'signed') return [low, high]
  const far = Math.max(Math.abs(low), Math.abs(high))
  return [-far, far]
}

const tints = new Map<number, Rgb>()

/** Distinct tints by golden-angle hues. */
export function tint(number: number): Rgb {
  const known = tints.get(number)
  if (known) return known
  if (tints.size > 10_000) tints.clear()
  const hue = (((number * 137.508 + 15) % 360) + 360) % 360
  const made = hslToRgb(hue / 360, 0.52, 0.56)
  tints.set(number, made)
  return made
}

function hslToRgb(h: number, s: number, l: number): Rgb {
  const part = (n: number) => {
    const k = (n + h * 12) % 12
    return l - s * Math.min(l, 1 - l) * Math.max(-1, Math.min(k - 3, 9 - k, 1))
  }
  return [part(0), part(8), part(4)]
}

export function css([r, g, b]: Rgb): string {
  return `rgb(${Math.round(r * 255)} ${Math.round(g * 255)} ${Math.round(b * 255)})`
}

/** A scale as a style, for the legend. */
export function gradientOf(name: ScaleName): string {
  const stops = Array.from({ length: 17 }, (_, i) => css(colorAt(name, i / 16)))
  return `linear-gradient(to right, ${stops.join(', ')})`
}
