/** What can be written at a place in a text: names that exist, with type and range, and functions with how they are written. */
import type { OperatorList, TextName, TextState } from '../api/client'

export interface Offer {
  label: string
  /** What is put into the text, if it is not the label. */
  insert?: string
  detail: string
  info: string
  kind: 'attribute' | 'built-in' | 'control' | 'input' | 'function' | 'word' | 'member'
}

export interface Spot {
  /** Where the word begins that is being written. */
  from: number
  word: string
  /** What stands before the dot, if there is one. */
  owner: string | null
}

const WORDS = [
  'if',
  'else',
  'elif',
  'for',
  'while',
  'break',
  'continue',
  'return',
  'def',
  'and',
  'or',
  'not',
  'True',
  'False',
  'in',
  'pass',
]

/** Find the word before the cursor, and what it belongs to: `reef.clo` gives `clo` of `reef`; after brackets the owner is `()`. */
export function spotAt(text: string, cursor: number): Spot {
  const before = text.slice(0, cursor)
  const word = /[\p{L}\p{N}_]*$/u.exec(before)![0]
  const rest = before.slice(0, before.length - word.length)
  if (!rest.endsWith('.')) return { from: cursor - word.length, word, owner: null }
  const owner = /((?:[\p{L}_][\p{L}\p{N}_]*)(?:\.[\p{L}_][\p{L}\p{N}_]*)*|\))\.$/u.exec(rest)
  return { from: cursor - word.length, word, owner: owner ? (owner[1] === ')' ? '()' : owner[1]!) : '?' }
}

function fromName(entry: TextName, member: boolean): Offer {
  const kind = member
    ? 'member'
    : entry.origin === 'attribute'
      ? 'attribute'
      : entry.origin === 'control'
        ? 'control'
        : entry.origin === 'input'
          ? 'input'
          : 'built-in'
  const question = entry.origin === 'question'
  return {
    label: entry.name,
    insert: question ? `${entry.name}(` : undefined,
    detail: question ? 'question' : entry.type,
    info: [entry.summary, entry.unit].filter(Boolean).join(' '),
    kind,
  }
}

/** Return all that fits a spot, the best first. */
export function offersAt(
  spot: Spot,
  state: TextState | null,
  functions: OperatorList['functions'],
  script: boolean,
): Offer[] {
  const all: Offer[] = []
  if (spot.owner !== null) {
    for (const entry of state?.members[spot.owner] ?? []) all.push(fromName(entry, true))
  } else {
    for (const entry of state?.names ?? []) all.push(fromName(entry, false))
    for (const entry of functions) {
      if (!script && (entry.family === 'script' || entry.family === 'controls')) continue
      if (entry.usage.startsWith('source.')) continue
      all.push({
        label: entry.name,
        insert: entry.family === 'controls' ? undefined : `${entry.name}(`,
        detail: entry.usage,
        info: [entry.summary, entry.source].filter(Boolean).join(' · '),
        kind: 'function',
      })
    }
    all.push({ label: 'here', detail: 'element', info: 'the element that the text runs on', kind: 'word' })
    for (const word of script ? WORDS : ['if', 'else', 'and', 'or', 'not', 'True', 'False'])
      all.push({ label: word, detail: '', info: '', kind: 'word' })
  }
  const typed = spot.word.toLowerCase()
  const seen = new Set<string>()
  return all
    .filter((offer) => !seen.has(offer.label) && seen.add(offer.label) && offer.label.toLowerCase().includes(typed))
    .sort((a, b) => rank(a, typed) - rank(b, typed))
}

const ORDER: Offer['kind'][] = ['control', 'attribute', 'member', 'input', 'built-in', 'function', 'word']
function rank(offer: Offer, typed: string): number {
  return (offer.label.toLowerCase().startsWith(typed) ? 0 : 100) + ORDER.indexOf(offer.kind)
}

/** Return what is known about the word at a place, for a hint under the pointer. */
export function hintAt(
  text: string,
  at: number,
  state: TextState | null,
  functions: OperatorList['functions'],
): { from: number; to: number; title: string; body: string } | null {
  const start = /[\p{L}\p{N}_]*$/u.exec(text.slice(0, at))![0].length
  const rest = /^[\p{L}\p{N}_]*/u.exec(text.slice(at))![0].length
  const [from, to] = [at - start, at + rest]
  const word = text.slice(from, to)
  if (!word) return null
  const spot = spotAt(text, to)
  const name = (spot.owner !== null ? state?.members[spot.owner] : state?.names)?.find((entry) => entry.name === word)
  if (name)
    return { from, to, title: `${name.name}: ${name.type}${name.unit ? `, ${name.unit}` : ''}`, body: name.summary }
  const found = functions.find((entry) => entry.name === word)
  return found
    ? {
        from,
        to,
        title: found.usage,
        body: [found.summary, found.example ? `e.g. ${found.example}` : '', found.source].filter(Boolean).join(' · '),
      }
    : null
}

/** Return the place of an error in a text as offsets. */
export function rangeOf(text: string, line: number, column: number, length: number): { from: number; to: number } {
  const lines = text.split('\n')
  const row = Math.min(Math.max(line, 1), lines.length)
  const before = lines.slice(0, row - 1).reduce((sum, one) => sum + one.length + 1, 0)
  const from = before + Math.min(Math.max(column - 1, 0), lines[row - 1]!.length)
  return { from, to: Math.min(Math.max(from + Math.max(length, 1), from), text.length) }
}
