/** False colour: numbers to display colours, and the scale that the legend shows. */
import { interpolateViridis } from 'd3-scale-chromatic'
import type { Numbers } from '../api/buffers'
import type { AttributeLook } from '../api/looks'

export type Rgb = [number, number, number]

const STEPS = 256
const NO: Rgb = [0.78, 0.76, 0.7]
const YES: Rgb = [0.88, 0.39, 0.2]

/** The number scale as a table: dark is low, light is high, even steps look even. */
const TABLE: Rgb[] = Array.from({ length: STEPS }, (_, i) => parse(interpolateViridis(i / (STEPS - 1))))

/** Distinct tints for text values and pieces, by golden-angle hues. */
function tint(number: number): Rgb {
  const hue = (number * 137.508 + 15) % 360
  return hslToRgb(hue / 360, 0.52, 0.56)
}

function parse(text: string): Rgb {
  const hex = /^#(..)(..)(..)$/.exec(text)
  if (hex) return [hex[1]!, hex[2]!, hex[3]!].map((part) => parseInt(part, 16) / 255) as Rgb
  return text.match(/\d+/g)!.map((part) => Number(part) / 255) as Rgb
}

function hslToRgb(h: number, s: number, l: number): Rgb {
  const part = (n: number) => {
    const k = (n + h * 12) % 12
    return l - s * Math.min(l, 1 - l) * Math.max(-1, Math.min(k - 3, 9 - k, 1))
  }
  return [part(0), part(8), part(4)]
}

/** Linear light to the screen's encoding (IEC 61966-2-1). */
export function encode(linear: number): number {
  const value = Math.min(Math.max(linear, 0), 1)
  return value <= 0.0031308 ? value * 12.92 : 1.055 * value ** (1 / 2.4) - 0.055
}

export type Legend =
  | { form: 'range'; title: string; unit: string; low: number; high: number; gradient: string }
  | { form: 'flag'; title: string; yes: string; no: string; members: number; total: number }
  | { form: 'words'; title: string; words: { text: string; color: string }[] }
  | { form: 'color'; title: string }

/** How a look is coloured: `part` is the component of a vector, 'length', or '' for colours as they are. */
export function isColor(look: Pick<AttributeLook, 'name' | 'type'>): boolean {
  return look.name === 'color' && (look.type === 'vec3' || look.type === 'vec4')
}

/** Return a display colour for every element and the legend that explains it. */
export function colorize(look: AttributeLook, values: Numbers, part: string): { colors: Float32Array; legend: Legend } {
  const size = look.values.shape[1] ?? 1
  const total = look.values.shape[0] ?? 0
  const colors = new Float32Array(total * 3)
  if (look.type === 'flag') {
    for (let i = 0; i < total; i++) colors.set(values[i] ? YES : NO, i * 3)
    const legend: Legend = { form: 'flag', title: look.name, yes: css(YES), no: css(NO), members: look.members ?? sum(values), total }
    return { colors, legend }
  }
  if (look.words) {
    for (let i = 0; i < total; i++) colors.set(tint(values[i]!), i * 3)
    return { colors, legend: { form: 'words', title: look.name, words: look.words.map((text, n) => ({ text, color: css(tint(n)) })) } }
  }
  if (isColor(look) && part === '') {
    for (let i = 0; i < total; i++) for (let c = 0; c < 3; c++) colors[i * 3 + c] = encode(values[i * size + c]!)
    return { colors, legend: { form: 'color', title: look.name } }
  }
  const numbers = scalar(values, size, total, part)
  let [low, high] = [Infinity, -Infinity]
  for (const value of numbers) {
    if (value < low) low = value
    if (value > high) high = value
  }
  if (total === 0) [low, high] = [0, 0]
  const span = high - low || 1
  for (let i = 0; i < total; i++) {
    colors.set(TABLE[Math.min(STEPS - 1, Math.max(0, Math.floor(((numbers[i]! - low) / span) * STEPS)))]!, i * 3)
  }
  const exact = part === 'length' ? [low, high] : [look.low?.[component(part)] ?? low, look.high?.[component(part)] ?? high]
  const title = size > 1 ? `${look.name}${part === 'length' ? ' (length)' : `.${part || 'x'}`}` : look.name
  return { colors, legend: { form: 'range', title, unit: look.unit ?? '', low: exact[0]!, high: exact[1]!, gradient: gradient() } }
}

function scalar(values: Numbers, size: number, total: number, part: string): Float32Array {
  const out = new Float32Array(total)
  const at = component(part)
  for (let i = 0; i < total; i++) {
    if (part === 'length') {
      let square = 0
      for (let c = 0; c < size; c++) square += values[i * size + c]! ** 2
      out[i] = Math.sqrt(square)
    } else out[i] = values[i * size + Math.min(at, size - 1)]!
  }
  return out
}

function component(part: string): number {
  return Math.max('xyzw'.indexOf(part || 'x'), 0)
}

function sum(values: Numbers): number {
  let total = 0
  for (const value of values) total += value
  return total
}

function css([r, g, b]: Rgb): string {
  return `rgb(${Math.round(r * 255)} ${Math.round(g * 255)} ${Math.round(b * 255)})`
}

function gradient(): string {
  const stops = Array.from({ length: 17 }, (_, i) => css(TABLE[Math.round((i / 16) * (STEPS - 1))]!))
  return `linear-gradient(to right, ${stops.join(', ')})`
}
