/** What a text gave for one element, as it is shown: one round of each loop at a time. */
import type { LiveBlock } from '../api/results'

/** A part of the text and its value. */
export interface Part {
  line: number
  column: number
  length: number
  text: string
  type: string
}

/** A loop whose rounds can be walked through. */
export interface Stepper {
  key: string
  line: number
  /** What it goes through, e.g. `i`, or the name of a function. */
  name: string
  what: LiveBlock['loops'][number]['what']
  /** Of the rounds that are kept: which is shown, and how many there are. */
  at: number
  kept: number
  /** The number of the shown round, counted from 1, of all. */
  round: number
  total: number
}

export interface Shown {
  /** What stands at the end of each line. */
  lines: Map<number, string>
  parts: Part[]
  steppers: Stepper[]
  marks: LiveBlock['marks']
}

/** Return what is shown with these rounds chosen (by key, counted among those kept); others show their last one. */
export function shownOf(block: LiveBlock, chosen: ReadonlyMap<string, number>): Shown {
  const shown: Shown = { lines: new Map(), parts: [], steppers: [], marks: [] }
  add(block, chosen, shown, '')
  return shown
}

function add(block: LiveBlock, chosen: ReadonlyMap<string, number>, shown: Shown, path: string): void {
  for (const [line, text] of block.lines) shown.lines.set(line, text)
  shown.parts.push(...block.seen.map(([line, column, length, text, type]) => ({ line, column, length, text, type })))
  shown.marks.push(...block.marks)
  for (const loop of block.loops) {
    const key = `${path}${loop.place[0]}:${loop.place[1]}`
    if (!loop.rounds.length) continue
    const at = Math.min(chosen.get(key) ?? loop.rounds.length - 1, loop.rounds.length - 1)
    const round = loop.rounds[at]!
    const { what, name, total } = loop
    // A function that calls itself is stepped through by its outermost call.
    if (!shown.steppers.some((one) => one.line === loop.place[0] && one.name === name))
      shown.steppers.push({
        key,
        line: loop.place[0],
        name,
        what,
        at,
        kept: loop.rounds.length,
        round: round.number + 1,
        total,
      })
    add(round.block, chosen, shown, `${key}/`)
  }
}

/** Return the smallest part around a place in the text, or null. Lines and columns count from 1. */
export function partAt(parts: readonly Part[], line: number, column: number): Part | null {
  let found: Part | null = null
  for (const part of parts) {
    const around = part.line === line && part.column <= column && column < part.column + part.length
    // Of two as long, the later round's: it was added after the one outside of the loop.
    if (around && (!found || part.length <= found.length)) found = part
  }
  return found
}

/** What a stepper says, e.g. `i: round 3 of 12`. */
export function stepWords({ what, name, round, total }: Stepper): string {
  const of = `${round} of ${total.toLocaleString('en')}`
  if (what === 'call') return `${name}: call ${of}`
  return what === 'items' ? `${name}: item ${of}` : `round ${of}`
}
