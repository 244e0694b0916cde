/** A graph as an operator: its inputs, outputs and dials as a declaration. */
import type { OperatorState, ParameterState } from '../api/client'
import type { Dial, GraphDocument, Port } from './document'
import { conditionText } from './contracts'

const FORMULAS = ['number', 'integer', 'vector', 'color', 'varying']
const WIRES = [...FORMULAS, 'toggle', 'choice', 'where']

/** Return a dial as the parameter that it is where its graph is used. */
export function describeDial(name: string, dial: Dial): ParameterState {
  const { holds, shown_when, value, default: preset, type, help, unit, ...more } = dial
  return {
    ...more,
    handle: handleOf(dial),
    name,
    label: name.replaceAll('_', ' '),
    widget: type,
    default: preset ?? value,
    help: help ?? '',
    unit: unit ?? '',
    type: holds ?? null,
    takes_formula: FORMULAS.includes(type),
    takes_wire: WIRES.includes(type),
    shown_when: shown_when ? { parameter: shown_when.dial, value: shown_when.value } : null,
  } as unknown as ParameterState
}

/** How a dial is dragged: as it says; three numbers in m are a place, and a list of places is its places. */
function handleOf({ type, unit, handle, value }: Dial): ParameterState['handle'] {
  const shape =
    handle?.shape ??
    (type === 'places'
      ? 'places'
      : type === 'vector' && unit === 'm' && Array.isArray(value) && value.length === 3
        ? 'place'
        : '')
  return shape ? ({ shape, at: [], space: handle?.space ?? 'own' } as ParameterState['handle']) : null
}

const known = new WeakMap<GraphDocument, Map<string, OperatorState>>()

/** Return the declaration of an operator that runs `graph`. */
export function describeNested(base: OperatorState, graph: GraphDocument | undefined): OperatorState {
  if (!graph) return { ...base, inputs: [port({ name: 'geo' })] as OperatorState['inputs'] }
  const mine = known.get(graph) ?? new Map<string, OperatorState>()
  known.set(graph, mine)
  if (!mine.has(base.name)) {
    mine.set(base.name, {
      ...base,
      inputs: (graph.inputs ?? []).map(port),
      outputs: graph.outputs?.length
        ? graph.outputs.map((entry) => ({ name: entry.name, help: entry.help ?? '' }))
        : base.outputs,
      parameters: [
        ...base.parameters,
        ...Object.entries(graph.dials ?? {}).map(([name, dial]) => describeDial(name, dial)),
      ],
    })
  }
  return mine.get(base.name)!
}

function port(entry: Port) {
  const expects = (entry.expects ?? []).map(conditionText).join('; ')
  return {
    name: entry.name,
    help: [entry.help ?? '', expects && `expects: ${expects}`].filter(Boolean).join('; '),
    many: false,
    optional: entry.optional ?? false,
  }
}
