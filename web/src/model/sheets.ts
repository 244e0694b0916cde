/** Proof sheets: what dials are turned to, as the service reads it, and the variants in the order in which they are shown. */
import type { Schemas } from '../api/client'
import { count, short } from '../shared/numbers'
import type { Dial } from './document'

export type Sheet = Schemas['SheetState']
export type Variant = Schemas['VariantState']
export type PlanBody = Schemas['PlanBody'] & { vary: Record<string, string> }
export type Cell = number | string | boolean | null
export type Aim = Required<Schemas['AimBody']>

/** How a value is turned. */
export const HOWS = ['stays', 'list', 'even', 'uniform', 'normal'] as const
export type How = (typeof HOWS)[number]
export const HOW_WORDS: Record<How, string> = {
  stays: 'stays as it is',
  list: 'each of a list',
  even: 'even steps',
  uniform: 'drawn, any alike',
  normal: 'drawn around a middle',
}

/** One value that may be turned: which of the fields count is said by `how`. */
export interface Turn {
  name: string
  how: How
  list: string
  low: number
  high: number
  steps: number
  middle: number
  deviation: number
}

/** What is offered for a dial at first: nothing turns, and its range is known. */
export function turnOf(name: string, dial: Dial): Turn {
  const at = typeof dial.value === 'number' ? dial.value : 0
  const low = dial.soft?.[0] ?? dial.low ?? Math.min(0, at)
  const high = dial.soft?.[1] ?? dial.high ?? (2 * at || 1)
  const choices = dial.options?.map((one) => one.value) ?? (dial.type === 'flag' ? ['true', 'false'] : [])
  return {
    name,
    how: 'stays',
    list: choices.length
      ? choices.join(', ')
      : ['number', 'string', 'boolean'].includes(typeof dial.value)
        ? String(dial.value)
        : '',
    low,
    high,
    steps: 5,
    middle: at,
    deviation: (high - low) / 6 || 0.1,
  }
}

/** Numbers are turned in every way, all else by lists; what is sought has ends. */
export const howsFor = (type: string, seeking = false): readonly How[] =>
  type !== 'number' && type !== 'integer' ? HOWS.slice(0, 2) : seeking ? HOWS.slice(0, 4) : HOWS

/** What a turned value is, as the service reads it; empty for one that stays. */
export function textOf(turn: Turn): string {
  switch (turn.how) {
    case 'stays':
      return ''
    case 'list':
      return turn.list
    case 'even':
      return `${turn.low}:${turn.high}:${turn.steps}`
    case 'uniform':
      return `uniform(${turn.low}, ${turn.high})`
    case 'normal':
      return `normal(${turn.middle}, ${turn.deviation})`
  }
}

export const isDrawn = (turns: readonly Turn[]) => turns.some(({ how }) => how === 'uniform' || how === 'normal')

/** Numbers by name from lines of `name = formula`; a line without a name is called as it says. */
export function numbersOf(words: readonly string[], lines: string): Record<string, string> {
  const made: Record<string, string> = Object.fromEntries(words.map((word) => [word, word]))
  for (const line of lines.split('\n')) {
    const at = /^\s*([A-Za-z_]\w*)\s*=(?!=)\s*(.+)$/.exec(line)
    if (at) made[at[1]!] = at[2]!.trim()
    else if (line.trim()) made[line.trim()] = line.trim()
  }
  return made
}

export const GOALS: { value: Aim['goal']; label: string }[] = [
  { value: 'smallest', label: 'as small as can be' },
  { value: 'largest', label: 'as large as can be' },
  { value: 'at', label: 'at a value' },
]

/** Formulas from lines; empty lines say nothing. */
export const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)

/** How many variants a sheet is to have in the end: of one that seeks, its tries. */
export const planned = (sheet: Sheet): number =>
  sheet.plan.seek && sheet.state !== 'done' ? sheet.plan.count : sheet.open + sheet.done + sheet.failed

/** What a sheet seeks, in words. */
export const soughtWords = (sheet: Sheet): string =>
  (sheet.plan.seek?.aims ?? [])
    .map((aim) => `${aim.formula} ${aim.goal === 'at' ? `at ${aim.value}` : aim.goal}`)
    .join(', ')

/** What a variant of a sheet that seeks is: best, good enough for all conditions, or not. */
export const verdictOf = (sheet: Sheet, one: Variant): Cell =>
  one.state === 'open' ? null : sheet.best.includes(one.number) ? 'best' : one.meets ? 'met' : 'unmet'

/** The key of the column that says what an aim's formula says. */
export function aimKey(sheet: Sheet, formula: string): string {
  if (formula in sheet.noted) return `numbers.${formula}`
  return formula in sheet.plan.vary ? `values.${formula}` : `aims.${formula}`
}

/** The columns of a sheet: its number, what was turned, what was noted, and how long it took. */
export interface Column {
  key: string
  title: string
  unit: string
  isNumber: boolean
  of: (one: Variant) => Cell
}

/** Units of what is known by a word. */
const NOTED_UNITS: Record<string, string> = { area: 'm²', volume: 'm³' }

/** Return the columns of a sheet; `unitOf` says the unit of a dial. */
export function columnsOf(
  sheet: Sheet,
  variants: readonly Variant[],
  unitOf: (name: string) => string = () => '',
): Column[] {
  const column = (key: string, title: string, of: (one: Variant) => unknown, unit = ''): Column => {
    const plain = (one: Variant) => cellOf(of(one))
    return {
      key,
      title: title.replaceAll('_', ' '),
      unit,
      of: plain,
      isNumber: variants.every((one) => ['number', 'object'].includes(typeof plain(one))),
    }
  }
  // A sheet that was extended has variants of other plans, too.
  const turned = new Set([...Object.keys(sheet.plan.vary), ...variants.flatMap((one) => Object.keys(one.values))])
  const aims = (sheet.plan.seek?.aims ?? [])
    .map((aim) => aim.formula)
    .filter((name) => aimKey(sheet, name).startsWith('aims.'))
  return [
    column('number', 'number', (one) => one.number),
    ...[...turned].map((name) => column(`values.${name}`, name, (one) => one.values[name], unitOf(name))),
    ...Object.keys(sheet.noted).map((name) =>
      column(`numbers.${name}`, name, (one) => one.numbers[name], NOTED_UNITS[sheet.noted[name]!]),
    ),
    ...aims.map((name) => column(`aims.${name}`, name, (one) => one.aims[name])),
    ...(sheet.plan.seek ? [column('verdict', 'conditions', (one) => verdictOf(sheet, one))] : []),
    column('seconds', 'time', (one) => (one.state === 'open' ? null : one.seconds), 's'),
  ]
}

function cellOf(value: unknown): Cell {
  if (value === undefined || value === null) return null
  return typeof value === 'object' ? JSON.stringify(value) : (value as Cell)
}

export const written = (cell: Cell): string =>
  cell === null
    ? '–'
    : typeof cell !== 'number'
      ? String(cell)
      : Number.isInteger(cell) && Math.abs(cell) < 1e9
        ? count(cell)
        : short(cell)

/** What a column is called, with its unit. */
export const headed = (column: Column): string => (column.unit ? `${column.title} (${column.unit})` : column.title)

/** What a column says of a variant, in words; a name speaks for itself. */
export const said = (column: Column, one: Variant): string =>
  (column.key === 'values.name' ? '' : `${column.title} `) +
  `${written(column.of(one))}${column.unit && ` ${column.unit}`}`

/** Why a number could not be had of any variant that is done; empty where there is none such. */
export function nowhere(sheet: Sheet, variants: readonly Variant[]): string {
  const done = variants.filter((one) => one.state === 'done')
  const missing = Object.keys(sheet.noted).find(
    (name) => done.length > 0 && done.every((one) => one.numbers[name] === null),
  )
  if (!missing) return ''
  const about = `number '${missing}': `
  const why = done[0]!.warnings.find((text) => text.startsWith(about))
  return `‘${missing}’ could not be had of any variant${why ? `: ${why.slice(about.length)}` : ''}`
}

/** Variants in order of a column; those without a value come last. */
export function sorted(variants: readonly Variant[], column: Column | undefined, descending: boolean): Variant[] {
  if (!column) return [...variants]
  const sign = descending ? -1 : 1
  const rank = (cell: Cell) => (cell === null ? 1 : 0)
  return [...variants].sort((a, b) => {
    const [one, other] = [column.of(a), column.of(b)]
    if (one === null || other === null) return rank(one) - rank(other) || a.number - b.number
    return sign * (one < other ? -1 : one > other ? 1 : 0) || a.number - b.number
  })
}

/** Variants by what a column says, groups in its order; one group without a title where nothing groups them. */
export function grouped(
  variants: readonly Variant[],
  column: Column | undefined,
): { title: string; variants: Variant[] }[] {
  if (!column) return [{ title: '', variants: [...variants] }]
  const made = new Map<string, Variant[]>()
  for (const one of sorted(variants, column, false)) {
    const title = `${column.title} ${written(column.of(one))}`
    made.set(title, [...(made.get(title) ?? []), one])
  }
  return [...made].map(([title, list]) => ({
    title,
    variants: list.sort((a, b) => variants.indexOf(a) - variants.indexOf(b)),
  }))
}

/** Put variants that ended into those that are known, by their number. */
export function merged(known: readonly Variant[], ended: readonly Variant[]): Variant[] {
  if (!ended.length) return known as Variant[]
  const made = new Map(known.map((one) => [one.number, one]))
  for (const one of ended) made.set(one.number, one)
  return [...made.values()].sort((a, b) => a.number - b.number)
}

/** Ranges of columns that variants must lie in, by the key of the column; several ranges of one: in any of them. */
export type Ranges = Record<string, [number, number][]>

/** The variants that lie in all ranges; null where there are none. */
export function within(variants: readonly Variant[], columns: readonly Column[], ranges: Ranges): Set<number> | null {
  const asked = columns.filter((column) => ranges[column.key]?.length)
  if (!asked.length) return null
  const holds = (one: Variant) =>
    asked.every((column) => {
      const cell = column.of(one)
      return typeof cell === 'number' && ranges[column.key]!.some(([low, high]) => low <= cell && cell <= high)
    })
  return new Set(variants.filter(holds).map((one) => one.number))
}
