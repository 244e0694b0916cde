/** False colour: numbers to display colours, and the scale that the legend shows. */
import type { Numbers } from '../../api/buffers'
import type { AttributeLook, GroupsLook, UvLook } from '../../api/results'
import { colorAt, covered, css, gradientOf, tint, type Rgb } from './scales'
import type { ScaleName } from '../../stores/useView'

const NO: Rgb = [0.78, 0.76, 0.7]
const YES: Rgb = [0.88, 0.39, 0.2]

/** Linear light to the screen's encoding (IEC 61966-2-1). */
export function encode(linear: number): number {
  const value = Math.min(Math.max(linear, 0), 1)
  return value <= 0.0031308 ? value * 12.92 : 1.055 * value ** (1 / 2.4) - 0.055
}

export type Legend =
  | {
      form: 'range'
      title: string
      unit: string
      low: number
      high: number
      from: number
      to: number
      gradient: string
      histogram: number[]
      distinct: boolean
    }
  | { form: 'flag'; title: string; yes: string; no: string; members: number; total: number }
  | { form: 'words'; title: string; words: { text: string; color: string }[] }
  | { form: 'color'; title: string }
  | {
      form: 'groups'
      title: string
      kind: string
      rows: { name: string; color: string; members: number }[]
      none: string
      total: number
      leftOut: number
    }
  | { form: 'checker'; title: string; low: number[]; high: number[] }
  | { form: 'material'; title: string; pieces: number }

function put(colors: Float32Array, at: number, [r, g, b]: Rgb): void {
  colors[at * 3] = r
  colors[at * 3 + 1] = g
  colors[at * 3 + 2] = b
}

/** How a look is coloured: `part` is the component of a vector, 'length', or '' for colours as they are. */
export function isColor(look: Pick<AttributeLook, 'name' | 'type'>): boolean {
  return look.name === 'color' && (look.type === 'vec3' || look.type === 'vec4')
}

/** Return a display colour for every element and the legend that explains it. */
export function colorize(
  look: AttributeLook,
  values: Numbers,
  part: string,
  scale: ScaleName = 'even',
  range: [number, number] | null = null,
): { colors: Float32Array; legend: Legend } {
  const size = look.values.shape[1] ?? 1
  const total = look.values.shape[0] ?? 0
  const colors = new Float32Array(total * 3)
  if (look.type === 'flag') {
    for (let i = 0; i < total; i++) put(colors, i, values[i] ? YES : NO)
    const legend: Legend = {
      form: 'flag',
      title: look.name,
      yes: css(YES),
      no: css(NO),
      members: look.members ?? sum(values),
      total,
    }
    return { colors, legend }
  }
  if (look.words) {
    for (let i = 0; i < total; i++) put(colors, i, tint(values[i]!))
    return {
      colors,
      legend: { form: 'words', title: look.name, words: look.words.map((text, n) => ({ text, color: css(tint(n)) })) },
    }
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
  const [from, to] = range ?? covered(scale, low, high)
  const span = to - from || 1
  for (let i = 0; i < total; i++) {
    put(colors, i, scale === 'distinct' ? tint(Math.round(numbers[i]!)) : colorAt(scale, (numbers[i]! - from) / span))
  }
  const exact =
    part === 'length' ? [low, high] : [look.low?.[component(part)] ?? low, look.high?.[component(part)] ?? high]
  const title = size > 1 ? `${look.name}${part === 'length' ? ' (length)' : `.${part || 'x'}`}` : look.name
  return {
    colors,
    legend: {
      form: 'range',
      title,
      unit: look.unit ?? '',
      low: exact[0]!,
      high: exact[1]!,
      from: range ? from : scale === 'signed' ? from : exact[0]!,
      to: range ? to : scale === 'signed' ? to : exact[1]!,
      gradient: gradientOf(scale),
      histogram: histogram(numbers, low, high),
      distinct: scale === 'distinct',
    },
  }
}

/** A tint for each group; elements in several are shown in the mean of their tints, those in none pale. */
export function tintGroups(look: GroupsLook, bits: Uint32Array): { colors: Float32Array; legend: Legend } {
  const tints = look.groups.map((_, n) => tint(n))
  const known = new Map<number, Rgb>([[0, NO]])
  const mixed = (held: number): Rgb => {
    const there = known.get(held)
    if (there) return there
    const parts = tints.filter((_, n) => (held >>> n) & 1)
    const made = [0, 1, 2].map((c) => parts.reduce((total, part) => total + part[c]!, 0) / parts.length) as Rgb
    known.set(held, made)
    return made
  }
  const colors = new Float32Array(bits.length * 3)
  for (let i = 0; i < bits.length; i++) put(colors, i, mixed(bits[i]!))
  const rows = look.groups.map(({ name, members }, n) => ({ name, members, color: css(tints[n]!) }))
  return {
    colors,
    legend: {
      form: 'groups',
      title: 'groups',
      kind: look.kind,
      rows,
      none: css(NO),
      total: look.total,
      leftOut: look.left_out,
    },
  }
}

/** A soft hue for each connected piece, as the base of a material. */
export function tintPieces(pieces: Numbers): { colors: Float32Array; legend: Legend } {
  const colors = new Float32Array(pieces.length * 3)
  const seen = new Map<number, Rgb>()
  for (let i = 0; i < pieces.length; i++) {
    const piece = pieces[i]!
    let base = seen.get(piece)
    if (!base) seen.set(piece, (base = tint(piece).map((part) => 0.45 * part + 0.42) as Rgb))
    put(colors, i, base)
  }
  return { colors, legend: { form: 'material', title: 'material', pieces: seen.size } }
}

export function checkerLegend(look: UvLook): Legend {
  return { form: 'checker', title: 'uv', low: look.low, high: look.high }
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

const BINS = 40

/** How many values lie in each of equal parts of their range. */
export function histogram(values: Float32Array, low: number, high: number): number[] {
  const bins = new Array<number>(BINS).fill(0)
  const span = high - low
  if (!(span > 0)) return []
  for (const value of values) bins[Math.min(BINS - 1, Math.floor(((value - low) / span) * BINS))]! += 1
  return bins
}
