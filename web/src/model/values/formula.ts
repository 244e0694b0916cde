/** Values that are numbers or formulas: how they are typed and shown. */
import { plainText } from '../../shared/plainText'

export type Formula = { formula: string }

export function isFormula(value: unknown): value is Formula {
  return typeof value === 'object' && value !== null && 'formula' in value
}

/** What stands in the field for a value. */
export function toText(value: unknown): string {
  if (isFormula(value)) return value.formula
  if (Array.isArray(value)) return `(${value.join(', ')})`
  if (typeof value === 'boolean') return value ? 'True' : 'False'
  return plainText(value)
}

/** What a typed text means: a number if it is one, else a formula. */
export function fromText(text: string): number | Formula {
  const trimmed = text.trim()
  return trimmed !== '' && /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i.test(trimmed) ? Number(trimmed) : { formula: text }
}

/** A number moved by whole steps, within its limits and free of binary noise. */
export function stepped(value: number, steps: number, step: number, low?: number | null, high?: number | null): number {
  const digits = Math.min(12, Math.max(0, Math.ceil(-Math.log10(step)) + 1))
  const moved = Number((value + steps * step).toFixed(digits))
  return Math.min(Math.max(moved, low ?? -Infinity), high ?? Infinity)
}

const SHARE = /^\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)\s*\*\s*extent\s*$/i

/** The factor of a value that is a share of the shape's size, `0.1 * extent`; null for any other. */
export function shareOf(value: unknown): number | null {
  const found = isFormula(value) ? SHARE.exec(value.formula) : null
  return found ? Number(found[1]) : null
}

/** A share of the shape's size as a value. */
export function shareValue(share: number): Formula {
  return { formula: `${Number(share.toPrecision(3))} * extent` }
}

/** What a slider offers for a share: up to some times the usual one, a round number, below 0 too if lengths may be. */
export function shareRange(share: number, usual: number | null, signed: boolean): [number, number] {
  const wanted = 4 * Math.abs(usual || share || 0.1)
  const ten = 10 ** Math.floor(Math.log10(wanted))
  const reach = Number((ten * [1, 2, 5, 10].find((round) => round * ten >= wanted * 0.999)!).toPrecision(3))
  return [Math.min(signed ? -reach : 0, share), Math.max(reach, share)]
}
