/** A batch: one graph over shapes of the project and rows of a table. */
import type { AssetState, OperatorState } from '../api/client'
import type { GraphDocument, GraphNode } from './document'

export interface Batch {
  /** Shapes by the place where they come in. */
  shapes: Record<string, string[]>
  table: string
  /** The format of the file that is kept of each result; empty: none. */
  ending: string
}
export const EMPTY_BATCH: Batch = { shapes: {}, table: '', ending: '' }

const TABLES = /\.(csv|parquet)$/i
const PLAIN = /^[A-Za-z_]\w*$/

/** Whether a shape came as a table. */
export const isTable = (shape: Pick<AssetState, 'file_name'>): boolean => TABLES.test(shape.file_name)

/** Where shapes come into a graph: its inputs, and parameters that name a shape. */
export function placesOf(
  graph: GraphDocument,
  operatorOf: (node: GraphNode | undefined) => OperatorState | undefined,
): { name: string; label: string }[] {
  const inputs = (graph.inputs ?? []).map(({ name }) => ({ name, label: name.replaceAll('_', ' ') }))
  const named = Object.entries(graph.nodes).flatMap(([id, node]) =>
    (operatorOf(node)?.parameters ?? [])
      .filter(({ widget }) => widget === 'shape')
      .map(({ name }) => ({ name: `${id}.${name}`, label: node.title || id.replaceAll('_', ' ') })),
  )
  return [...inputs, ...named]
}

/** Names as a list that is varied; what could be read as a number is put in quotes. */
export const shapeList = (names: readonly string[]): string =>
  names.map((name) => (PLAIN.test(name) ? name : JSON.stringify(name))).join(', ')

/** The names in such a list. */
export const namesOf = (text: string): string[] =>
  text
    .split(',')
    .map((one) => one.trim().replace(/^"(.*)"$/, '$1'))
    .filter(Boolean)

/** What a batch varies: each place with shapes. */
export const variedBy = (batch: Batch): Record<string, string> =>
  Object.fromEntries(
    Object.entries(batch.shapes)
      .filter(([, names]) => names.length)
      .map(([place, names]) => [place, shapeList(names)]),
  )
