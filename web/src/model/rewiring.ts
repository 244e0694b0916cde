/** Moving a node to another place in the graph: what it did there others do without it, and it is put in between elsewhere. */
import { feedOf, parameterOf, splitFeed, wires, wouldCircle, type GraphDocument, type Wire } from './document'

/** A place between rows: after what feeds it, and before those that take that further down. */
export interface Gap {
  /** The node whose result runs there. */
  source: string
  /** The nodes that stand further down. */
  below: ReadonlySet<string>
}

/** Take a node out of its chain: what it fed is fed by what fed it. Its wires from values stay. */
export function takeOut(document: GraphDocument, id: string): void {
  const node = document.nodes[id]
  if (!node) return
  const feed = Object.values(node.inputs ?? {}).flat()[0]
  for (const wire of wires(document).filter((one) => one.from === id && parameterOf(one.input) === null))
    refeed(document, wire, feed)
  for (const output of document.outputs ?? [])
    if (output.feed && splitFeed(output.feed).from === id) output.feed = feed ?? ''
  node.inputs = {}
}

/** Feed the end of a wire by something else, or by nothing. */
function refeed(document: GraphDocument, wire: Wire, feed: string | undefined): void {
  const inputs = document.nodes[wire.to]!.inputs!
  const old = feedOf(wire)
  const feeds = inputs[wire.input]!.flatMap((one) => (one !== old ? [one] : feed ? [feed] : []))
  inputs[wire.input] = [...new Set(feeds)]
  if (!feeds.length) delete inputs[wire.input]
}

/** The wires that a node put into a gap would cut. */
function across(document: GraphDocument, id: string, { source, below }: Gap): Wire[] {
  return wires(document).filter(
    (wire) => wire.from === source && wire.to !== id && below.has(wire.to) && parameterOf(wire.input) === null,
  )
}

/**
 * Put a node into a gap through one of its inputs; it is taken out of where it was. Returns why it cannot be, or
 * nothing if it was done. The document is changed only if it was.
 */
export function moveInto(document: GraphDocument, id: string, input: string | undefined, gap: Gap): string {
  const titleOf = (name: string) => document.nodes[name]?.title || name
  if (!input) return `‘${titleOf(id)}’ begins a chain: no geometry runs through it`
  if (gap.source === id) return 'it is there already'
  const trial = structuredClone(document)
  takeOut(trial, id)
  if (wouldCircle(trial, gap.source, id)) return `‘${titleOf(gap.source)}’ needs ‘${titleOf(id)}’ itself`
  const cut = across(trial, id, gap)
  if (cut.some((wire) => wouldCircle(trial, id, wire.to))) return `what comes below feeds ‘${titleOf(id)}’`
  const feed = cut[0] ? feedOf(cut[0]) : gap.source
  for (const wire of cut) refeed(trial, wire, id)
  trial.nodes[id]!.inputs = { [input]: [feed] }
  if (JSON.stringify(trial.nodes) === JSON.stringify(document.nodes)) return 'it is there already'
  document.nodes = trial.nodes
  document.outputs = trial.outputs
  return ''
}
