/** Where cards lie: top to bottom or from left to right, layer by layer, except those placed by hand. */
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

/** Which way the graph runs. */
export const WAYS = ['down', 'across'] as const
export type Way = (typeof WAYS)[number]

export const CARD: Size = { width: 224, height: 76 }

/** Return the place of the upper left corner of every card. The cards of a frame are laid out by themselves, then as one. */
export function layout(document: GraphDocument, sizes: Record<string, Size>, way: Way = 'down'): Record<string, Place> {
  const all = wires(document)
  const owner: Record<string, string> = {}
  for (const [key, frame] of Object.entries(document.frames ?? {})) {
    for (const id of frame.nodes) if (id in document.nodes) owner[id] ??= `frame ${key}`
  }
  const blocks: Record<string, { places: Record<string, Place>; size: Size }> = {}
  for (const key of new Set(Object.values(owner))) {
    const members = Object.keys(document.nodes).filter((id) => owner[id] === key)
    const places = arrange(Object.fromEntries(members.map((id) => [id, sizes[id] ?? CARD])), all, way)
    const box = frameBox(members, places, sizes)!
    for (const id of members) places[id] = { x: places[id]!.x - box.x, y: places[id]!.y - box.y }
    blocks[key] = { places, size: { width: box.width, height: box.height } }
  }
  const outer: Record<string, Size> = {}
  for (const id of Object.keys(document.nodes))
    outer[owner[id] ?? id] = blocks[owner[id] ?? '']?.size ?? sizes[id] ?? CARD
  const between = all
    .map((wire) => ({ from: owner[wire.from] ?? wire.from, to: owner[wire.to] ?? wire.to }))
    .filter((wire) => wire.from !== wire.to)
  const found = arrange(outer, between, way)
  const places: Record<string, Place> = {}
  for (const [id, node] of Object.entries(document.nodes)) {
    const block = owner[id] === undefined ? null : blocks[owner[id]]!
    const at = found[owner[id] ?? id]!
    const auto = block ? { x: at.x + block.places[id]!.x, y: at.y + block.places[id]!.y } : at
    places[id] = node.place ? { x: node.place[0], y: node.place[1] } : auto
  }
  makeWay(document, places, sizes)
  return places
}

/** Lay boxes out layer by layer. Returns their upper left corners. */
function arrange(
  boxes: Record<string, Size>,
  between: { from: string; to: string }[],
  way: Way,
): Record<string, Place> {
  const graph = new dagre.graphlib.Graph()
  const apart =
    way === 'down' ? { rankdir: 'TB', nodesep: 22, ranksep: 14 } : { rankdir: 'LR', nodesep: 14, ranksep: 36 }
  graph.setGraph({ ...apart, marginx: 0, marginy: 0 })
  graph.setDefaultEdgeLabel(() => ({}))
  for (const [id, size] of Object.entries(boxes)) graph.setNode(id, { ...size })
  for (const { from, to } of between) if (from in boxes && to in boxes) graph.setEdge(from, to)
  dagre.layout(graph)
  return Object.fromEntries(
    Object.keys(boxes).map((id) => {
      const { x, y, width, height } = graph.node(id)
      return [id, { x: x - width / 2, y: y - height / 2 }]
    }),
  )
}

const GAP = 16

/** Move cards that were laid out away from those placed by hand, to the right, so that none covers another. */
function makeWay(document: GraphDocument, places: Record<string, Place>, sizes: Record<string, Size>): void {
  const ids = Object.keys(document.nodes)
  const fixed = ids.filter((id) => document.nodes[id]!.place)
  if (!fixed.length) return
  const free = ids
    .filter((id) => !document.nodes[id]!.place)
    .sort((a, b) => places[a]!.y - places[b]!.y || places[a]!.x - places[b]!.x)
  const done = [...fixed]
  for (const id of free) {
    for (let tries = 0; tries < done.length; tries++) {
      const other = done.find((one) => overlap(places[id]!, sizes[id] ?? CARD, places[one]!, sizes[one] ?? CARD))
      if (!other) break
      places[id] = { x: places[other]!.x + (sizes[other] ?? CARD).width + GAP, y: places[id]!.y }
    }
    done.push(id)
  }
}

function overlap(a: Place, size: Size, b: Place, other: Size): boolean {
  return a.x < b.x + other.width && b.x < a.x + size.width && a.y < b.y + other.height && b.y < a.y + size.height
}

const FRAME = { side: 14, head: 46, foot: 12 }

/** Return the box of a frame around cards, or null if none of them is there. */
export function frameBox(
  ids: string[],
  places: Record<string, Place>,
  sizes: Record<string, Size>,
): (Place & Size) | null {
  const there = ids.filter((id) => places[id])
  if (!there.length) return null
  const left = Math.min(...there.map((id) => places[id]!.x))
  const top = Math.min(...there.map((id) => places[id]!.y))
  const right = Math.max(...there.map((id) => places[id]!.x + (sizes[id] ?? CARD).width))
  const bottom = Math.max(...there.map((id) => places[id]!.y + (sizes[id] ?? CARD).height))
  return {
    x: left - FRAME.side,
    y: top - FRAME.head,
    width: right - left + 2 * FRAME.side,
    height: bottom - top + FRAME.head + FRAME.foot,
  }
}

const MARGIN = 12

/** Return how far to shift the board so that all cards show, or if there is no room, the looked-at one near the lower edge. */
export function viewportFor(places: Record<string, Place>, sizes: Record<string, Size>, at: string, pane: Size): Place {
  const along = (axis: 'x' | 'y', side: 'width' | 'height') => {
    const begins = Object.entries(places).map(
      ([id, place]) => [place[axis], place[axis] + (sizes[id] ?? CARD)[side]] as const,
    )
    const low = Math.min(...begins.map(([begin]) => begin))
    const high = Math.max(...begins.map(([, end]) => end))
    const room = pane[side] - 2 * MARGIN
    return { low, high, room, fits: high - low <= room }
  }
  if (!Object.keys(places).length) return { x: 0, y: 0 }
  const own = places[at] ?? Object.values(places)[0]!
  const size = sizes[at] ?? CARD
  const x = along('x', 'width')
  const y = along('y', 'height')
  const clamp = (shift: number, { low, high, room }: { low: number; high: number; room: number }) =>
    Math.min(Math.max(shift, room + MARGIN - high), MARGIN - low)
  return {
    x: x.fits ? (pane.width - x.low - x.high) / 2 : clamp(pane.width / 2 - own.x - size.width / 2, x),
    y: y.fits ? MARGIN - y.low : clamp(Math.max(pane.height - MARGIN * 2 - own.y - size.height, MARGIN - own.y), y),
  }
}

/** Return the viewport moved as little as it takes to show a card, its top first if it is taller than the pane. */
export function revealing(viewport: Place, place: Place, size: Size, pane: Size): Place {
  const shift = (at: number, length: number, room: number) =>
    Math.max(Math.min(0, room - MARGIN - at - length), MARGIN - at > 0 ? 0 : MARGIN - at) + Math.max(0, MARGIN - at)
  return {
    x: viewport.x + shift(place.x + viewport.x, size.width, pane.width),
    y: viewport.y + shift(place.y + viewport.y, size.height, pane.height),
  }
}

/**
 * Return places in a line for some cards, in the order in which they stand: one below the other, or beside each other
 * where the graph runs across. They stay about where they are; none covers another.
 */
export function inLine(
  ids: string[],
  places: Record<string, Place>,
  sizes: Record<string, Size>,
  way: Way,
): Record<string, Place> {
  const [along, side, long] = way === 'down' ? (['y', 'x', 'height'] as const) : (['x', 'y', 'width'] as const)
  const there = ids.filter((id) => places[id]).sort((a, b) => places[a]![along] - places[b]![along])
  const line = Math.min(...there.map((id) => places[id]![side]))
  const made: Record<string, Place> = {}
  let free = -Infinity
  for (const id of there) {
    const at = Math.max(places[id]![along], free)
    made[id] = way === 'down' ? { x: line, y: at } : { x: at, y: line }
    free = at + (sizes[id] ?? CARD)[long] + GAP
  }
  return made
}
