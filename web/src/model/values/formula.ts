/** Values that are numbers or formulas: how they are typed and shown. */

export type Formula = { formula: string }

export function isFormula(value: unknown): value is Formula {
  return typeof value === 'object' && value !== null && 'formula' in value
}

/** What stands in the field for a value. */
export function toText(value: unknown): string {
  if (isFormula(value)) return value.formula
  if (Array.isArray(value)) return `(${value.join(', ')})`
  if (typeof value === 'boolean') return value ? 'True' : 'False'
  return String(value ?? '')
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
