/** The graph as rows in the order of evaluation, with thin lanes that show which result goes where. */
import { parameterOf, wires, type GraphDocument } from './document'

/** A wire as it arrives at a row. */
export interface Arrival {
  lane: number
  from: string
  input: string
  /** It carries a value, not a geometry. */
  value: boolean
}

/** What runs along a lane: what a node made, until the last one that takes it. */
export interface Running {
  lane: number
  from: string
  value: boolean
}

export interface LaneRow {
  id: string
  lane: number
  /** What comes in from above. */
  arrivals: Arrival[]
  /** Lanes that run past. */
  past: Running[]
  /** Lanes that run on below. */
  after: Running[]
}

/** Return the nodes in an order in which each stands below all that feed it; chains stay together, short branches stand where they join. */
export function evaluationOrder(document: GraphDocument): string[] {
  const feeders = new Map<string, string[]>(Object.keys(document.nodes).map((id) => [id, []]))
  const taken = new Set<string>()
  for (const wire of wires(document)) {
    if (!feeders.has(wire.from)) continue
    feeders.get(wire.to)!.push(wire.from)
    taken.add(wire.from)
  }
  const sizes = sizesOf(feeders)
  for (const list of feeders.values()) list.sort((a, b) => sizes.get(b)! - sizes.get(a)!)
  const order: string[] = []
  const seen = new Set<string>()
  const ids = [...feeders.keys()]
  for (const end of [...ids.filter((id) => !taken.has(id)), ...ids]) visit(end, feeders, seen, order)
  return order
}

/** How long the longest way to each node is: what is long stands first, so that lanes are short. */
function sizesOf(feeders: Map<string, string[]>): Map<string, number> {
  const sizes = new Map<string, number>()
  const order: string[] = []
  const seen = new Set<string>()
  for (const id of feeders.keys()) visit(id, feeders, seen, order)
  for (const id of order) sizes.set(id, 1 + Math.max(0, ...feeders.get(id)!.map((from) => sizes.get(from) ?? 0)))
  return sizes
}

/** Append a node after all that feed it. */
function visit(end: string, feeders: Map<string, string[]>, seen: Set<string>, order: string[]): void {
  const stack: { id: string; next: number }[] = []
  const enter = (id: string) => {
    if (seen.has(id)) return
    seen.add(id)
    stack.push({ id, next: 0 })
  }
  enter(end)
  for (let top = stack.at(-1); top; top = stack.at(-1)) {
    const feeder = feeders.get(top.id)![top.next++]
    if (feeder !== undefined) enter(feeder)
    else order.push(stack.pop()!.id)
  }
}

/** Return the rows of a graph. `isValue` tells value nodes from those that make a geometry. */
export function laneRows(document: GraphDocument, isValue: (id: string) => boolean): LaneRow[] {
  const arriving = new Map<string, { from: string; input: string }[]>()
  const left = new Map<string, number>()
  for (const { from, to, input } of wires(document)) {
    if (!(from in document.nodes)) continue
    arriving.set(to, [...(arriving.get(to) ?? []), { from, input }])
    left.set(from, (left.get(from) ?? 0) + 1)
  }
  const lanes: (string | null)[] = []
  const laneOf = new Map<string, number>()
  const running = (): Running[] => lanes.flatMap((from, lane) => (from ? [{ lane, from, value: isValue(from) }] : []))
  return evaluationOrder(document).map((id) => {
    const arrivals = (arriving.get(id) ?? []).flatMap(({ from, input }) => {
      const lane = laneOf.get(from)
      return lane === undefined ? [] : [{ lane, from, input, value: parameterOf(input) !== null }]
    })
    for (const { from } of arrivals) left.set(from, left.get(from)! - 1)
    for (const { from, lane } of arrivals) if (!left.get(from)) lanes[lane] = null
    const past = running()
    const main = arrivals.find((one) => !one.value && lanes[one.lane] === null)
    const free = lanes.indexOf(null)
    const lane = main?.lane ?? (free < 0 ? lanes.length : free)
    lanes[lane] = left.get(id) ? id : null
    laneOf.set(id, lane)
    return { id, lane, arrivals, past, after: running() }
  })
}

/** How many lanes rows need side by side. */
export function lanesWide(rows: LaneRow[]): number {
  return rows.reduce((most, row) => Math.max(most, row.lane + 1, ...row.past.map((one) => one.lane + 1)), 0)
}
