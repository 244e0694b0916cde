/** Who follows whom: formulas that name another card's parameter. */
import { isBound, type GraphDocument } from './document'

export interface Pair {
  node: string
  parameter: string
}

/** What a dragged parameter is called while it is on its way. */
export const DRAGGED = 'application/x-reticula-parameter'

const MEMBER = /(?<![\w.])([A-Za-z_]\w*)\.([A-Za-z_]\w*)/g

function texts(value: unknown): string[] {
  if (typeof value === 'string') return [value]
  if (Array.isArray(value) || typeof value !== 'object' || value === null || isBound(value)) return []
  return Object.values(value).flatMap(texts)
}

/** Return, for each parameter that is followed (`node.parameter`), the parameters that follow it. */
export function followersOf(document: GraphDocument): Map<string, Pair[]> {
  const found = new Map<string, Pair[]>()
  for (const [id, node] of Object.entries(document.nodes)) {
    for (const [parameter, value] of Object.entries(node.parameters ?? {})) {
      for (const text of texts(value)) {
        for (const [, other, of] of text.matchAll(MEMBER)) {
          if (other === id || !(other! in document.nodes) || other! in (node.inputs ?? {})) continue
          const key = `${other}.${of}`
          const known = found.get(key) ?? []
          if (!known.some((pair) => pair.node === id && pair.parameter === parameter))
            found.set(key, [...known, { node: id, parameter }])
        }
      }
    }
  }
  return found
}

/** The parameter that a value follows and nothing else, if it is a tie. */
export function followed(value: unknown, document: GraphDocument): Pair | null {
  const text = typeof value === 'object' && value !== null && 'formula' in value ? String(value.formula) : ''
  const match = /^\s*([A-Za-z_]\w*)\.([A-Za-z_]\w*)(\.[xyz])?\s*$/.exec(text)
  return match && match[1]! in document.nodes ? { node: match[1]!, parameter: match[2]! } : null
}
