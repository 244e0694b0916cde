import { describe, expect, it } from 'vitest'
import { describeDial, describeNested } from './nestedOperator'
import type { OperatorState } from '../api/client'
import type { Dial, GraphDocument } from './document'
import { essenceOf, levelOf, nodeOf } from './levels'

const inner: GraphDocument = {
  format: 'reticula graph',
  version: 1,
  nodes: { box: { operator: 'box', place: [1, 2] } },
  inputs: [{ name: 'geo', expects: [{ what: 'closed' }] }],
  outputs: [{ name: 'made', feed: 'box' }],
  dials: {
    tall: { type: 'number', value: 2, unit: 'm', section: 'Size', shown_when: { dial: 'on', value: true } },
    on: { type: 'toggle', value: true },
  },
}
const document: GraphDocument = {
  format: 'reticula graph',
  version: 1,
  nodes: { f: { operator: 'folded', graph: inner }, p: { operator: 'tile@1.0.0' } },
}

describe('levels', () => {
  it('are found by path, a round or not, as deep as they go', () => {
    expect(levelOf(document, ['f'])).toEqual({ graph: inner, depth: 1, fixed: false })
    expect(levelOf(document, ['f@3']).graph).toBe(inner)
    expect(levelOf(document, ['f', 'box']).depth).toBe(1)
    expect(levelOf(document, ['gone'])).toEqual({ graph: document, depth: 0, fixed: false })
    expect(nodeOf('rings@12')).toBe('rings')
  })
  it('of published operators cannot be changed', () => {
    expect(levelOf(document, ['p'], { 'tile@1.0.0': inner })).toEqual({ graph: inner, depth: 1, fixed: true })
  })
  it('are the same to an evaluation when only cards were moved or titled', () => {
    const moved = structuredClone(document)
    moved.nodes.f!.graph!.nodes.box!.place = [9, 9]
    moved.nodes.f!.title = 'Other'
    expect(essenceOf(moved)).toEqual(essenceOf(document))
    moved.nodes.f!.graph!.nodes.box!.parameters = { size: [1, 1, 1] }
    expect(essenceOf(moved)).not.toEqual(essenceOf(document))
  })
})

describe('a graph as an operator', () => {
  it('has its inputs, outputs and dials', () => {
    const base = {
      name: 'repeat',
      label: 'repeat',
      inputs: [],
      outputs: [{ name: 'geo', help: '' }],
      parameters: [{ name: 'rounds' }],
    } as unknown as OperatorState
    const made = describeNested(base, inner)
    expect(made.inputs.map((entry) => entry.help)).toEqual(['expects: has no open border'])
    expect(made.outputs.map((entry) => entry.name)).toEqual(['made'])
    expect(made.parameters.map((entry) => entry.name)).toEqual(['rounds', 'tall', 'on'])
    expect(made.parameters[1]).toMatchObject({
      widget: 'number',
      default: 2,
      unit: 'm',
      section: 'Size',
      takes_formula: true,
      shown_when: { parameter: 'on', value: true },
    })
    expect(describeNested(base, inner)).toBe(made)
  })
})

describe('handles of dials', () => {
  const shape = (dial: Partial<Dial>) => describeDial('x', { type: 'vector', value: [0, 0, 0], ...dial }).handle
  it('are those of the parameters they were made of', () => {
    expect(shape({ handle: { shape: 'turn', space: 'world' } })).toEqual({ shape: 'turn', at: [], space: 'world' })
    expect(shape({ handle: { shape: 'direction' } })).toMatchObject({ space: 'own' })
  })

  it('are places for three numbers in m and for lists of places, and none for others', () => {
    expect(shape({ unit: 'm' })).toMatchObject({ shape: 'place' })
    expect(shape({ unit: 'm', value: [1, 1] })).toBeNull()
    expect(shape({ unit: '°' })).toBeNull()
    expect(shape({ type: 'places', value: [[0, 0, 0]] })).toMatchObject({ shape: 'places' })
    expect(shape({ type: 'number', value: 1 })).toBeNull()
  })
})
