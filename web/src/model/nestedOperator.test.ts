import { describe, expect, it } from 'vitest'
import type { OperatorState } from '../api/client'
import { operator } from '../testing/server'
import type { GraphDocument } from './document'
import { describeDial, describeNested } from './nestedOperator'

const base = operator('folded', { holds_graph: true }) as unknown as OperatorState

describe('a dial as a parameter', () => {
  it('keeps its range, help and default', () => {
    const made = describeDial('how_tall', { type: 'number', value: 2, default: 1, low: 0, high: 9, help: 'height' })
    expect(made).toMatchObject({ label: 'how tall', widget: 'number', default: 1, low: 0, high: 9, help: 'height' })
    expect(made.takes_formula && made.takes_wire).toBe(true)
    expect(describeDial('on', { type: 'toggle', value: true }).takes_formula).toBe(false)
    expect(describeDial('shape', { type: 'shape', value: '' }).takes_wire).toBe(false)
  })

  it('is dragged as it says, or as a place where it is three metres', () => {
    const vector = { type: 'vector', value: [0, 0, 0] }
    expect(describeDial('a', vector).handle).toBeNull()
    expect(describeDial('a', { ...vector, unit: 'm' }).handle).toMatchObject({ shape: 'place', space: 'own' })
    expect(describeDial('a', { ...vector, handle: { shape: 'turn', space: 'world' } } as never).handle).toMatchObject({
      shape: 'turn',
      space: 'world',
    })
    expect(describeDial('a', { type: 'places', value: [] }).handle).toMatchObject({ shape: 'places' })
  })
})

describe('a graph as an operator', () => {
  const graph = {
    format: 'reticula graph',
    version: 1,
    nodes: {},
    dials: { height: { type: 'number', value: 1 } },
    inputs: [{ name: 'scan', help: 'a scan', optional: true, expects: [{ what: 'closed' }] }],
    outputs: [{ name: 'tile' }],
  } as unknown as GraphDocument

  it('has its inputs, outputs and dials', () => {
    const made = describeNested(base, graph)
    expect(made.inputs).toEqual([
      { name: 'scan', help: 'a scan; expects: has no open border', many: false, optional: true },
    ])
    expect(made.outputs).toEqual([{ name: 'tile', help: '' }])
    expect(made.parameters.map((entry) => entry.name)).toEqual(['height'])
  })

  it('is described once as long as it is the same', () => {
    expect(describeNested(base, graph)).toBe(describeNested(base, graph))
    expect(describeNested(base, { ...graph })).not.toBe(describeNested(base, graph))
  })

  it('without a graph takes one geometry', () => {
    expect(describeNested(base, undefined).inputs.map((entry) => entry.name)).toEqual(['geo'])
  })
})
