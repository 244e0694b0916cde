/** Cards as text: copied to the clipboard, pasted into this graph or another one. */
import { feedOf, freeId, isBound, isWired, splitFeed, type Dial, type GraphDocument, type GraphNode } from './document'
import { unlinked } from './linked'
import { plainText } from '../shared/plainText'

interface Cards {
  format: 'reticula cards'
  version: 1
  nodes: Record<string, GraphNode>
  /** Dials that the cards are bound to or read by name. */
  dials: Record<string, Dial>
}

/** Return cards as text, with the dials that they need. */
export function cardsToText(document: GraphDocument, ids: string[]): string {
  const nodes = unlinked(
    Object.fromEntries(ids.filter((id) => id in document.nodes).map((id) => [id, document.nodes[id]!])),
  )
  const text = JSON.stringify(nodes)
  const dials = Object.entries(document.dials ?? {}).filter(([name]) => new RegExp(`\\b${name}\\b`).test(text))
  const cards: Cards = { format: 'reticula cards', version: 1, nodes, dials: Object.fromEntries(dials) }
  return JSON.stringify(cards, null, 1)
}

/** Return the cards that a text holds, or null if it holds none. */
export function cardsFromText(text: string): Cards | null {
  try {
    const found = JSON.parse(text) as Partial<Cards>
    const whole =
      found.format === 'reticula cards' &&
      found.version === 1 &&
      typeof found.nodes === 'object' &&
      found.nodes !== null
    return whole && Object.values(found.nodes!).every((node) => typeof node?.operator === 'string')
      ? ({ dials: {}, ...found } as Cards)
      : null
  } catch {
    return null
  }
}

/** Put cards into a graph (changes it): wires among them stay, others stay where their source is there. Returns their ids. */
export function paste(document: GraphDocument, cards: Cards): string[] {
  const names = new Map<string, string>()
  for (const [id, node] of Object.entries(cards.nodes)) {
    const fresh = id in document.nodes ? freeId(document, node.operator.split('@')[0]!) : id
    names.set(id, fresh)
    document.nodes[fresh] = structuredClone(node)
    const place = document.nodes[fresh].place
    if (place && fresh !== id) document.nodes[fresh].place = [place[0] + 40, place[1] + 40]
  }
  for (const [name, dial] of Object.entries(cards.dials)) {
    if (!document.dials?.[name]) document.dials = { ...document.dials, [name]: structuredClone(dial) }
  }
  for (const fresh of names.values()) {
    const node = document.nodes[fresh]!
    for (const [input, feeds] of Object.entries(node.inputs ?? {})) {
      const kept = feeds.flatMap((feed) => {
        const { from, output } = splitFeed(feed)
        const source = names.get(from) ?? (from in document.nodes ? from : null)
        return source ? [feedOf({ from: source, output })] : []
      })
      if (kept.length) node.inputs![input] = kept
      else delete node.inputs![input]
    }
    node.parameters = renamed(node.parameters ?? {}, names, document) as Record<string, unknown>
    if (
      node.operator === 'input' &&
      !document.inputs?.some((entry) => entry.name === (node.parameters!.name ?? 'geo'))
    ) {
      document.inputs = [...(document.inputs ?? []), { name: plainText(node.parameters.name ?? 'geo'), help: '' }]
    }
  }
  return [...names.values()]
}

/** Values with wires and ties to the copies; a wire from nowhere is left out. */
function renamed(value: unknown, names: Map<string, string>, document: GraphDocument): unknown {
  if (typeof value === 'string')
    return value.replace(/(?<![\w.])([A-Za-z_]\w*)(?=\.)/g, (name) => names.get(name) ?? name)
  if (typeof value !== 'object' || value === null || Array.isArray(value) || isBound(value)) return value
  if (isWired(value)) return { wire: names.get(value.wire) ?? value.wire }
  const kept = Object.entries(value).filter(
    ([, one]) => !isWired(one) || names.has(one.wire) || one.wire in document.nodes,
  )
  return Object.fromEntries(kept.map(([key, one]) => [key, renamed(one, names, document)]))
}
