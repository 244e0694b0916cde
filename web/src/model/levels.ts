/** Levels of a document: the graph itself, and the graphs inside its nodes. A step may name a round: `rings@3`. */
import type { GraphDocument } from './document'

/** The node that a step goes into. */
export function nodeOf(step: string): string {
  return step.split('@')[0]!
}

/** The graph at the end of a path (not a copy), as deep as the path exists; `definitions` are graphs of published operators. */
export function levelOf(
  document: GraphDocument,
  path: string[],
  definitions: Record<string, GraphDocument> = {},
): { graph: GraphDocument; depth: number; fixed: boolean } {
  let graph = document
  let fixed = false
  for (const [depth, step] of path.entries()) {
    const node = graph.nodes[nodeOf(step)]
    const own = node?.graph
    const inner = own ?? (node && definitions[node.operator])
    if (!inner) return { graph, depth, fixed }
    fixed ||= !own
    graph = inner
  }
  return { graph, depth: path.length, fixed }
}

const COSMETIC = [
  'title',
  'notes',
  'frames',
  'jumps',
  'standpoints',
  'looking_at',
  'presets',
  'result',
  'place',
  'left',
  'linked',
]

/** All of a document that its results depend on; moving or renaming a card is not among it. */
export function essenceOf(document: GraphDocument): unknown {
  const kept = Object.entries(document).filter(([key]) => !COSMETIC.includes(key) && key !== 'nodes')
  const nodes = Object.entries(document.nodes).map(([id, node]) => {
    const { graph, ...more } = node
    return [id, Object.entries(more).filter(([key]) => !COSMETIC.includes(key)), graph ? essenceOf(graph) : null]
  })
  return [kept, nodes]
}
