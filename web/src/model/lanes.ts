/** The graph as rows in the order of evaluation, with thin lanes that show which result goes where. */
import TinyQueue from 'tinyqueue'
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

/** A result on its lane, from the row that makes it to the last row that takes it. */
interface Run extends Running {
  begin: number
  end: number
}

/** Rows between two places at which it is written down what runs there. */
const STRIDE = 64

/** Which results run at a row, found from the nearest place where that is written down. */
class Runs {
  private readonly written: Run[][] = [[]]
  private readonly begun: (Run | null)[] = []
  private open: Run[] = []

  /** Add what begins at the next row; every run must know its end when rows are asked for. */
  add(run: Run | null): void {
    const at = this.begun.push(run) - 1
    if (run) this.open.push(run)
    if ((at + 1) % STRIDE) return
    this.open = this.open.filter((one) => one.end > at)
    this.written.push([...this.open])
  }

  /** Runs that began before a row and end after it; with `own` also the one that begins there. */
  at(row: number, own: boolean): Running[] {
    const from = Math.floor(row / STRIDE)
    const since = this.begun.slice(from * STRIDE, row + (own ? 1 : 0))
    return [...this.written[from]!, ...since]
      .filter((run): run is Run => run !== null && run.end > row)
      .sort((a, b) => a.lane - b.lane)
      .map(({ lane, from, value }) => ({ lane, from, value }))
  }
}

/** Return the rows of a graph. `isValue` tells value nodes from those that make a geometry. */
export function laneRows(document: GraphDocument, isValue: (id: string) => boolean): LaneRow[] {
  const order = evaluationOrder(document)
  const rowOf = new Map(order.map((id, row) => [id, row]))
  const arriving = new Map<string, { from: string; input: string }[]>()
  const ends = new Map<string, number>()
  for (const { from, to, input } of wires(document)) {
    if (!rowOf.has(from)) continue
    const there = arriving.get(to)
    if (there) there.push({ from, input })
    else arriving.set(to, [{ from, input }])
    ends.set(from, Math.max(ends.get(from) ?? 0, rowOf.get(to)!))
  }
  const runs = new Runs()
  const free = new TinyQueue<number>([])
  let lanes = 0
  const laneOf = new Map<string, number>()
  return order.map((id, row) => {
    const arrivals = (arriving.get(id) ?? []).flatMap(({ from, input }) => {
      const lane = laneOf.get(from)
      return lane === undefined ? [] : [{ lane, from, input, value: parameterOf(input) !== null }]
    })
    const ended = arrivals.filter(({ from }) => ends.get(from) === row)
    const main = ended.find((one) => !one.value)
    for (const lane of new Set(ended.map((one) => one.lane))) if (lane !== main?.lane) free.push(lane)
    const lane = main?.lane ?? free.pop() ?? lanes++
    laneOf.set(id, lane)
    const end = ends.get(id)
    runs.add(end === undefined ? null : { lane, from: id, value: isValue(id), begin: row, end })
    if (end === undefined) free.push(lane)
    return {
      id,
      lane,
      arrivals,
      get past() {
        return runs.at(row, false)
      },
      get after() {
        return runs.at(row, true)
      },
    }
  })
}

/** How many lanes the rows of a graph need side by side. */
export function lanesWide(rows: LaneRow[]): number {
  return rows.reduce((most, row) => Math.max(most, row.lane + 1), 0)
}
