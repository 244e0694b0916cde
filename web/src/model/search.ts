/** Finding cards in a graph: by title, operator, parameter, value or attribute, at any depth. */
import type { GraphDocument, GraphNode } from './document'

export interface Found {
  /** The nodes to go into, and the card there. */
  path: string[]
  id: string
  title: string
  /** What fitted: the title, or a parameter with its value. */
  where: string
}

const MOST = 60

/** Return the cards in which all words are found, nearest levels first; `published` are graphs of published operators. */
export function searchGraph(
  document: GraphDocument,
  words: string,
  label: (node: GraphNode) => string,
  published: Readonly<Record<string, GraphDocument>> = {},
): Found[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean)
  const found: Found[] = []
  const open: { graph: GraphDocument; path: string[] }[] = [{ graph: document, path: [] }]
  for (let level = open.shift(); level && found.length < MOST && wanted.length; level = open.shift()) {
    for (const [id, node] of Object.entries(level.graph.nodes)) {
      const title = node.title || label(node)
      const values = Object.entries(node.parameters ?? {}).map(
        ([name, value]) => `${name.replaceAll('_', ' ')}: ${plainText(value)}`,
      )
      const all = [title, id, label(node), ...values].join('\n').toLowerCase()
      if (wanted.every((word) => all.includes(word))) {
        const where = values.find((text) => wanted.some((word) => text.toLowerCase().includes(word))) ?? label(node)
        found.push({ path: level.path, id, title, where })
      }
      const inner = node.graph ?? published[node.operator]
      if (inner) open.push({ graph: inner, path: [...level.path, id] })
    }
  }
  return found.slice(0, MOST)
}

function plainText(value: unknown): string {
  if (typeof value === 'object' && value !== null && 'formula' in value) return String(value.formula)
  return typeof value === 'string' ? value : JSON.stringify(value)
}
