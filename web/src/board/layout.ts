/** Where cards lie: top to bottom, layer by layer, except those placed by hand. */
import dagre from '@dagrejs/dagre'
import { wires, type GraphDocument } from './document'

export interface Size {
  width: number
  height: number
}

export interface Place {
  x: number
  y: number
}

export const CARD: Size = { width: 224, height: 76 }

/** Return the place of the upper left corner of every card. */
export function layout(document: GraphDocument, sizes: Record<string, Size>): Record<string, Place> {
  const graph = new dagre.graphlib.Graph()
  graph.setGraph({ rankdir: 'TB', nodesep: 22, ranksep: 14, marginx: 0, marginy: 0 })
  graph.setDefaultEdgeLabel(() => ({}))
  for (const id of Object.keys(document.nodes)) graph.setNode(id, { ...(sizes[id] ?? CARD) })
  for (const wire of wires(document)) if (graph.hasNode(wire.from)) graph.setEdge(wire.from, wire.to)
  dagre.layout(graph)
  const places: Record<string, Place> = {}
  for (const [id, node] of Object.entries(document.nodes)) {
    const { x, y, width, height } = graph.node(id)
    places[id] = node.place ? { x: node.place[0], y: node.place[1] } : { x: x - width / 2, y: y - height / 2 }
  }
  return places
}
