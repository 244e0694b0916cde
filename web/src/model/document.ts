/** The graph document and the edits that the board makes to it. All functions change the document they are given. */
import type { InputState, OperatorState } from '../api/client'
import type { Condition } from './contracts'
import { plainText } from '../shared/plainText'
import { isKeyed, keysInWords } from './time/keyedValues'
import { followsInWords, isFollowing } from './time/following'

export interface GraphNode {
  operator: string
  operator_version?: number
  title?: string
  skip?: boolean
  place?: [number, number] | null
  parameters?: Record<string, unknown>
  inputs?: Record<string, string[]>
  /** The graph that the node runs: folded, repeat, for each. */
  graph?: GraphDocument
  /** The linked graph that it runs, which others may run, too. */
  linked?: string
  /** Newer releases that were looked at and left. */
  left?: string[]
}

export interface Dial {
  type: string
  value: unknown
  default?: unknown
  soft?: [number, number]
  low?: number | null
  high?: number | null
  step?: number
  unit?: string
  help?: string
  section?: string
  shown_when?: { dial: string; value: unknown }
  options?: { value: string; help?: string }[]
  size?: number
  whole?: boolean
  on?: string
  of?: string
  holds?: string
  kind?: string
  new?: boolean
  handle?: { shape: string; space?: 'own' | 'world' }
}

export interface Port {
  name: string
  help?: string
  optional?: boolean
  expects?: Condition[]
  feed?: string
}

export interface Frame {
  title?: string
  note?: string
  nodes: string[]
}

export interface GraphDocument {
  format: string
  version: number
  title?: string
  notes?: string
  dials?: Record<string, Dial>
  /** Graphs that several nodes run, by name; only the outermost graph has them. */
  linked?: Record<string, GraphDocument>
  inputs?: Port[]
  outputs?: Port[]
  presets?: Record<string, Record<string, unknown>>
  contracts?: Condition[]
  frames?: Record<string, Frame>
  jumps?: Record<string, string>
  standpoints?: Record<
    string,
    { position: [number, number, number]; target: [number, number, number]; parallel?: boolean }
  >
  /** First and last frame, and frames per second. */
  time?: { first: number; last: number; rate: number }
  nodes: Record<string, GraphNode>
  looking_at?: string | null
  result?: string | null
}

/** A wire from an output (the first one, if not named) of a node to an input of another. */
export interface Wire {
  from: string
  output?: string
  to: string
  input: string
}

/** Return the node and the output that `node` or `node:output` names. */
export function splitFeed(feed: string): { from: string; output?: string } {
  const [from, output] = feed.split(':')
  return output ? { from: from!, output } : { from: from! }
}

/** Return how a wire is written down at its input. */
export function feedOf(wire: Pick<Wire, 'from' | 'output'>): string {
  return wire.output ? `${wire.from}:${wire.output}` : wire.from
}

/** Return every wire of the graph, those of geometries and those of values. */
export function wires(document: GraphDocument): Wire[] {
  return Object.entries(document.nodes).flatMap(([to, node]) => [
    ...Object.entries(node.inputs ?? {}).flatMap(([input, feeds]) =>
      feeds.map((feed) => ({ ...splitFeed(feed), to, input })),
    ),
    ...Object.entries(node.parameters ?? {}).flatMap(([name, value]) =>
      isWired(value) ? [{ from: value.wire, to, input: `=${name}` }] : [],
    ),
  ])
}

/** Return, as a text, all that rows and places of cards depend on: nodes, wires, frames and what was placed by hand; no values. */
export function structureOf(document: GraphDocument): string {
  const nodes = Object.entries(document.nodes).map(([id, node]) => [id, node.operator, node.place])
  return JSON.stringify([nodes, wires(document), document.frames])
}

/** Whether a parameter is fed by a value node. */
export function isWired(value: unknown): value is { wire: string } {
  return typeof value === 'object' && value !== null && 'wire' in value
}

/** Whether a parameter is bound to a dial of its graph. */
export function isBound(value: unknown): value is { dial: string } {
  return typeof value === 'object' && value !== null && 'dial' in value
}

/** The parameter that a wire ends at, if it carries a value. */
export function parameterOf(input: string): string | null {
  return input.startsWith('=') ? input.slice(1) : null
}

/** Return an id that no node has yet, made from the operator's name. */
export function freeId(document: GraphDocument, operator: string): string {
  const plain = operator.split('@')[0]
  let number = 1
  while (`${plain}_${number}` in document.nodes) number += 1
  return `${plain}_${number}`
}

/** Add a node, fed by `after` if it takes an input, and look at it. Returns its id. */
export function addNode(document: GraphDocument, operator: OperatorState, after?: string | null): string {
  const id = freeId(document, operator.name)
  const node: GraphNode = { operator: operator.name, operator_version: operator.version, parameters: {} }
  const input = operator.inputs[0]
  if (input && after && splitFeed(after).from in document.nodes) node.inputs = { [input.name]: [after] }
  if (operator.holds_graph) {
    node.graph = startingGraph()
    if (after && splitFeed(after).from in document.nodes) node.inputs = { geo: [after] }
  }
  if (operator.name === 'input') node.parameters = { name: addInput(document) }
  document.nodes[id] = node
  if (!operator.makes_value) document.looking_at = id
  return id
}

/** What a node that holds a graph begins with: what comes in goes out. */
export function startingGraph(): GraphDocument {
  return {
    format: 'reticula graph',
    version: 1,
    dials: {},
    inputs: [{ name: 'geo', help: 'geometry to work on' }],
    outputs: [{ name: 'geo', help: 'the result', feed: 'start' }],
    nodes: { start: { operator: 'input', parameters: { name: 'geo' } } },
  }
}

/** Add an input to the graph and return its name: the first one that no input card shows yet, else a new one. */
function addInput(document: GraphDocument): string {
  document.inputs ??= []
  const shown = new Set(
    Object.values(document.nodes).flatMap((node) =>
      node.operator === 'input' ? [node.parameters?.name ?? 'geo'] : [],
    ),
  )
  const waiting = document.inputs.find((entry) => !shown.has(entry.name))
  if (waiting) return waiting.name
  const name = freeName(
    'geo',
    document.inputs.map((entry) => entry.name),
  )
  document.inputs.push({ name, help: '' })
  return name
}

/** Return a name that is not taken: the wanted one, or that with a number. */
export function freeName(wanted: string, taken: string[]): string {
  let name = wanted
  for (let number = 2; taken.includes(name); number += 1) name = `${wanted}_${number}`
  return name
}

/** Return whether `to` feeds `from`, so that a wire between them would close a circle. */
export function wouldCircle(document: GraphDocument, from: string, to: string): boolean {
  const all = wires(document)
  const open = [from]
  const seen = new Set<string>()
  for (let name = open.pop(); name !== undefined; name = open.pop()) {
    if (name === to) return true
    if (seen.has(name)) continue
    seen.add(name)
    open.push(...all.filter((wire) => wire.to === name).map((wire) => wire.from))
  }
  return false
}

/** Connect two nodes; an input that takes one geometry lets go of the one it had. */
export function connect(document: GraphDocument, wire: Wire, many: boolean): void {
  const node = document.nodes[wire.to]
  if (!node) return
  const parameter = parameterOf(wire.input)
  if (parameter !== null) {
    node.parameters = { ...node.parameters, [parameter]: { wire: wire.from } }
    return
  }
  node.inputs ??= {}
  const feeds = node.inputs[wire.input] ?? []
  const feed = feedOf(wire)
  node.inputs[wire.input] = many ? [...feeds.filter((other) => other !== feed), feed] : [feed]
}

/** Take a wire away. */
export function disconnect(document: GraphDocument, wire: Wire): void {
  const parameter = parameterOf(wire.input)
  if (parameter !== null) delete document.nodes[wire.to]?.parameters?.[parameter]
  const inputs = document.nodes[wire.to]?.inputs
  if (!inputs?.[wire.input]) return
  inputs[wire.input] = inputs[wire.input]!.filter((feed) => feed !== feedOf(wire))
  if (!inputs[wire.input]!.length) delete inputs[wire.input]
}

/** Put a node into a wire. */
export function insertInto(document: GraphDocument, wire: Wire, id: string, input: string): void {
  const feeds = document.nodes[wire.to]?.inputs?.[wire.input]
  if (!feeds) return
  feeds[feeds.indexOf(feedOf(wire))] = id
  document.nodes[id]!.inputs = { ...document.nodes[id]!.inputs, [input]: [feedOf(wire)] }
}

/** Remove nodes; what hung on a removed node hangs on its first feed instead. */
export function removeNodes(document: GraphDocument, ids: string[]): void {
  for (const id of ids) {
    const gone = document.nodes[id]
    if (!gone) continue
    const feed = Object.values(gone.inputs ?? {}).flat()[0]
    delete document.nodes[id]
    for (const wire of wires(document).filter((entry) => entry.from === id)) {
      if (parameterOf(wire.input) !== null) {
        disconnect(document, wire)
        continue
      }
      const feeds = document.nodes[wire.to]!.inputs![wire.input]!
      if (feed && !feeds.includes(feed)) feeds[feeds.indexOf(feedOf(wire))] = feed
      else disconnect(document, wire)
    }
    const last = Object.keys(document.nodes).at(-1) ?? null
    if (document.looking_at && splitFeed(document.looking_at).from === id) document.looking_at = feed ?? last
    if (document.result && splitFeed(document.result).from === id) document.result = feed ?? null
    for (const output of document.outputs ?? [])
      if (output.feed && splitFeed(output.feed).from === id) output.feed = feed ?? ''
    for (const frame of Object.values(document.frames ?? {})) frame.nodes = frame.nodes.filter((name) => name !== id)
    for (const [jump, target] of Object.entries(document.jumps ?? {})) if (target === id) delete document.jumps![jump]
  }
}

/** Copy nodes with the wires among them and into them. Returns the ids of the copies. */
export function duplicateNodes(document: GraphDocument, ids: string[]): string[] {
  const copies = new Map<string, string>()
  for (const id of ids) {
    const copy = freeId(document, document.nodes[id]!.operator)
    document.nodes[copy] = structuredClone(document.nodes[id]!)
    if (document.nodes[copy].place) document.nodes[copy].place = shifted(document.nodes[copy].place)
    copies.set(id, copy)
  }
  for (const copy of copies.values()) {
    for (const value of Object.values(document.nodes[copy]!.parameters ?? {}))
      if (isWired(value)) value.wire = copies.get(value.wire) ?? value.wire
    for (const feeds of Object.values(document.nodes[copy]!.inputs ?? {})) {
      feeds.forEach((feed, number) => {
        const { from, output } = splitFeed(feed)
        feeds[number] = feedOf({ from: copies.get(from) ?? from, output })
      })
    }
  }
  return [...copies.values()]
}

function shifted([x, y]: [number, number]): [number, number] {
  return [x + 40, y + 40]
}

const DECLARED_INPUT = /^([^\W\d]\w*)\s*:\s*geometry\b/gmu

/** Return a node's inputs: those of its operator, and those that its text declares. */
export function inputsOf(node: GraphNode | undefined, operator: OperatorState | undefined): InputState[] {
  if (!operator) return []
  if (!operator.declares_inputs) return operator.inputs
  const text = plainText(
    node?.parameters?.source ?? operator.parameters.find((entry) => entry.name === 'source')?.default ?? '',
  )
  const declared = [...text.matchAll(DECLARED_INPUT)].map(([, name]) => ({
    name: name!,
    help: 'declared in the text',
    many: false,
    optional: true,
  }))
  return [...operator.inputs, ...declared]
}

/** Set a parameter, or forget it if it is the default again. */
export function setParameter(document: GraphDocument, id: string, name: string, value: unknown, preset: unknown): void {
  const node = document.nodes[id]
  if (!node) return
  node.parameters ??= {}
  if (JSON.stringify(value) === JSON.stringify(preset)) delete node.parameters[name]
  else node.parameters[name] = value
}

/** Say in one line what a node does: the values that differ from the defaults. */
export function nodeLine(node: GraphNode, operator: OperatorState | undefined): string {
  if (!operator) return ''
  return operator.parameters
    .filter((entry) => node.parameters && entry.name in node.parameters)
    .map((entry) => `${entry.label} ${plain(node.parameters![entry.name], entry.unit)}`)
    .join(' · ')
}

function plain(value: unknown, unit: string): string {
  if (isWired(value)) return `← ${value.wire}`
  if (isBound(value)) return `= ${value.dial.replaceAll('_', ' ')}`
  if (isKeyed(value)) return keysInWords(value)
  if (isFollowing(value)) return followsInWords(value)
  if (
    typeof value === 'object' &&
    value !== null &&
    !Array.isArray(value) &&
    Object.keys(value).every((key) => /^[0-9a-f]{6,16}$/.test(key)) &&
    Object.keys(value).length
  )
    return `${Object.keys(value).length} by hand`
  if (typeof value === 'string' && value.includes('\n'))
    return `${value.split('\n').filter((line) => line.trim()).length} lines`
  if (typeof value === 'object' && value !== null && !Array.isArray(value) && !('formula' in value)) {
    return Object.entries(value)
      .map(([name, one]) => `${name} ${plain(one, '')}`)
      .join(' ')
  }
  if (typeof value === 'object' && value !== null && 'formula' in value) return String(value.formula)
  if (Array.isArray(value) && typeof value[0] === 'object' && 'dabs' in value[0]) return String(value.length)
  if (Array.isArray(value) && Array.isArray(value[0])) return `through ${value.length} points`
  if (Array.isArray(value)) return value.join(' × ') + (unit ? ` ${unit}` : '')
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  return String(value) + (typeof value === 'number' && unit ? ` ${unit}` : '')
}
