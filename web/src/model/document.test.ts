import { describe, expect, it } from 'vitest'
import type { OperatorState } from '../api/client'
import {
  addNode,
  connect,
  duplicateNodes,
  insertInto,
  nodeLine,
  removeNodes,
  setParameter,
  wires,
  wouldCircle,
  type GraphDocument,
} from './document'
import { layout } from './layout'

const declared = (name: string, inputs: string[] = ['geo']): OperatorState =>
  ({
    name,
    label: name,
    version: 1,
    inputs: inputs.map((input) => ({ name: input, help: '', many: false })),
    parameters: [
      { name: 'distance', label: 'distance', default: 0.1, unit: 'm' },
      { name: 'size', label: 'size', default: [1, 1], unit: 'm' },
    ],
  }) as unknown as OperatorState

function chain(): GraphDocument {
  const document: GraphDocument = { format: 'reticula graph', version: 1, nodes: {}, looking_at: null }
  addNode(document, declared('grid', []))
  addNode(document, declared('extrude'), 'grid_1')
  addNode(document, declared('smooth'), 'extrude_1')
  return document
}

describe('the graph document', () => {
  it('adds nodes after others and looks at them', () => {
    const document = chain()
    expect(wires(document)).toEqual([
      { from: 'grid_1', to: 'extrude_1', input: 'geo' },
      { from: 'extrude_1', to: 'smooth_1', input: 'geo' },
    ])
    expect(document.looking_at).toBe('smooth_1')
    expect(addNode(document, declared('extrude'), null)).toBe('extrude_2')
  })

  it('connects one or many, and knows circles', () => {
    const document = chain()
    connect(document, { from: 'grid_1', to: 'smooth_1', input: 'geo' }, false)
    expect(document.nodes.smooth_1!.inputs).toEqual({ geo: ['grid_1'] })
    connect(document, { from: 'extrude_1', to: 'smooth_1', input: 'geo' }, true)
    expect(document.nodes.smooth_1!.inputs).toEqual({ geo: ['grid_1', 'extrude_1'] })
    expect(wouldCircle(document, 'smooth_1', 'grid_1')).toBe(true)
    expect(wouldCircle(document, 'grid_1', 'smooth_1')).toBe(false)
  })

  it('puts a node into a wire', () => {
    const document = chain()
    const id = addNode(document, declared('group'), null)
    insertInto(document, { from: 'grid_1', to: 'extrude_1', input: 'geo' }, id, 'geo')
    expect(document.nodes.extrude_1!.inputs).toEqual({ geo: ['group_1'] })
    expect(document.nodes.group_1!.inputs).toEqual({ geo: ['grid_1'] })
  })

  it('heals the wires around a removed node', () => {
    const document = chain()
    document.result = 'extrude_1'
    removeNodes(document, ['extrude_1'])
    expect(document.nodes.smooth_1!.inputs).toEqual({ geo: ['grid_1'] })
    expect(document.result).toBe('grid_1')
    removeNodes(document, ['grid_1', 'smooth_1'])
    expect([document.nodes, document.looking_at]).toEqual([{}, null])
  })

  it('duplicates nodes with the wires among them', () => {
    const document = chain()
    expect(duplicateNodes(document, ['extrude_1', 'smooth_1'])).toEqual(['extrude_2', 'smooth_2'])
    expect(document.nodes.smooth_2!.inputs).toEqual({ geo: ['extrude_2'] })
    expect(document.nodes.extrude_2!.inputs).toEqual({ geo: ['grid_1'] })
  })

  it('stores only what differs from the default, and says it', () => {
    const document = chain()
    setParameter(document, 'extrude_1', 'distance', 0.5, 0.1)
    setParameter(document, 'extrude_1', 'size', { formula: 'vec2(a)' }, [1, 1])
    expect(nodeLine(document.nodes.extrude_1!, declared('extrude'))).toBe('distance 0.5 m · size vec2(a)')
    setParameter(document, 'extrude_1', 'distance', 0.1, 0.1)
    expect(document.nodes.extrude_1!.parameters).toEqual({ size: { formula: 'vec2(a)' } })
  })

  it('is laid out top to bottom, except what was placed by hand', () => {
    const document = chain()
    document.nodes.smooth_1!.place = [500, 7]
    const places = layout(document, { grid_1: { width: 300, height: 200 } })
    expect(places.extrude_1!.y).toBeGreaterThanOrEqual(places.grid_1!.y + 200)
    expect(places.smooth_1).toEqual({ x: 500, y: 7 })
  })
})
