/**
 * Linked graphs: a document keeps a graph that several of its nodes run once, under `linked`, and they name it.
 * Everything on the page works on nodes that hold their graph: `attached` puts it there, `detached` takes it out again.
 */
import type { GraphDocument, GraphNode } from './document'

/** A document whose nodes hold the linked graphs that they name, the same object each; links that lead nowhere stay. */
export function attached(document: GraphDocument): GraphDocument {
  const linked = document.linked
  if (!linked || !Object.keys(linked).length) return document
  const made = new Map<string, GraphDocument>()

  function graphNamed(name: string, way: readonly string[]): GraphDocument | undefined {
    if (!made.has(name) && linked![name] && !way.includes(name)) made.set(name, filled(linked![name], [...way, name]))
    return made.get(name)
  }
  function filled(graph: GraphDocument, way: readonly string[]): GraphDocument {
    const nodes = Object.entries(graph.nodes).map(([id, node]) => [id, withGraph(node, way)] as const)
    return { ...graph, nodes: Object.fromEntries(nodes) }
  }
  function withGraph(node: GraphNode, way: readonly string[]): GraphNode {
    const held = node.graph ? filled(node.graph, way) : node.linked ? graphNamed(node.linked, way) : undefined
    return held ? { ...node, graph: held } : node
  }
  return filled(document, [])
}

/**
 * A document as it is kept: nodes name their linked graphs. One whose graph was changed changes it for all that name it;
 * what nobody names any more goes, and what names nothing keeps its own graph.
 */
export function detached(document: GraphDocument): GraphDocument {
  const before = document.linked ?? {}
  const told = new Map(Object.entries(before).map(([name, graph]) => [name, JSON.stringify(graph)]))
  const changed = new Map<string, GraphDocument>()
  const seen = new Map<GraphDocument, GraphDocument>()

  function plain(graph: GraphDocument): GraphDocument {
    let found = seen.get(graph)
    if (!found) {
      const nodes = Object.entries(graph.nodes).map(([id, node]) => [id, plainNode(node)] as const)
      found = { ...graph, nodes: Object.fromEntries(nodes) }
      seen.set(graph, found)
    }
    return found
  }
  function plainNode(node: GraphNode): GraphNode {
    if (!node.graph) return node
    const { graph, linked, ...rest } = node
    const own = plain(graph)
    if (!linked || !told.has(linked)) return { ...rest, graph: own }
    if (JSON.stringify(own) !== told.get(linked)) changed.set(linked, own)
    return { ...rest, linked }
  }

  const made = { ...plain(document) }
  delete made.linked
  const reached = new Set<string>()
  const open: GraphDocument[] = [made]
  for (let level = open.pop(); level; level = open.pop()) {
    for (const { graph, linked } of Object.values(level.nodes)) {
      if (graph) open.push(graph)
      const known = linked && !reached.has(linked) ? (changed.get(linked) ?? before[linked]) : undefined
      if (known) open.push(known)
      if (linked) reached.add(linked)
    }
  }
  const kept = Object.keys(before)
    .filter((name) => reached.has(name))
    .map((name) => [name, changed.get(name) ?? before[name]!] as const)
  return kept.length ? { ...made, linked: Object.fromEntries(kept) } : made
}

/** How many nodes run a linked graph, in the whole document. */
export function copiesOf(document: GraphDocument, name: string): number {
  let found = 0
  const seen = new Set<GraphDocument>()
  const open = [document]
  for (let level = open.pop(); level; level = open.pop()) {
    for (const node of Object.values(level.nodes)) {
      if (node.linked === name) found += 1
      if (node.graph && !seen.has(node.graph)) {
        seen.add(node.graph)
        open.push(node.graph)
      }
    }
  }
  return found
}

/** Nodes that hold their graphs and name none, to be put elsewhere. */
export function unlinked(nodes: Record<string, GraphNode>): Record<string, GraphNode> {
  const made = Object.entries(nodes).map(([id, node]) => {
    const own = { ...node }
    delete own.linked
    return [id, node.graph ? { ...own, graph: { ...node.graph, nodes: unlinked(node.graph.nodes) } } : own]
  })
  return Object.fromEntries(made) as Record<string, GraphNode>
}
