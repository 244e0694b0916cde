import { describe, expect, it } from 'vitest'
import { cardsFromText, cardsToText, paste } from './clipboard'
import type { GraphDocument } from './document'

function document(): GraphDocument {
  return {
    format: 'reticula graph',
    version: 1,
    dials: { tall: { type: 'number', value: 1 }, other: { type: 'number', value: 2 } },
    nodes: {
      a: { operator: 'grid' },
      b: {
        operator: 'transform',
        inputs: { geo: ['a'] },
        parameters: { move: { formula: 'vec3(0, tall * a.cells.x, 0)' } },
        place: [1, 2],
      },
      v: { operator: 'number_value' },
      c: { operator: 'extrude', inputs: { geo: ['b:rest'] }, parameters: { distance: { wire: 'v' } } },
    },
  }
}

describe('cards as text', () => {
  it('goes into another graph with the wires among them and the dials they read', () => {
    const cards = cardsFromText(cardsToText(document(), ['b', 'c', 'v']))!
    expect(Object.keys(cards.dials)).toEqual(['tall'])
    const other: GraphDocument = { format: 'reticula graph', version: 1, nodes: {} }
    expect(paste(other, cards)).toEqual(['b', 'c', 'v'])
    expect(other.nodes.b!.inputs).toEqual({})
    expect(other.nodes.c!.inputs).toEqual({ geo: ['b:rest'] })
    expect(other.dials!.tall!.value).toBe(1)
  })
  it('gets new names beside the same cards, and its wires and ties lead to the copies', () => {
    const same = document()
    const [a, b, c, v] = paste(same, cardsFromText(cardsToText(same, ['a', 'b', 'c', 'v']))!)
    expect([a, b, c, v]).toEqual(['grid_1', 'transform_1', 'extrude_1', 'number_value_1'])
    expect(same.nodes[b!]!.parameters!.move).toEqual({ formula: 'vec3(0, tall * grid_1.cells.x, 0)' })
    expect(same.nodes[b!]!.place).toEqual([41, 42])
    expect(same.nodes[c!]!.inputs).toEqual({ geo: ['transform_1:rest'] })
    expect(same.nodes[c!]!.parameters!.distance).toEqual({ wire: 'number_value_1' })
  })
  it('leaves out wires from cards that are not there', () => {
    const other: GraphDocument = { format: 'reticula graph', version: 1, nodes: {} }
    paste(other, cardsFromText(cardsToText(document(), ['c']))!)
    expect(other.nodes.c).toEqual({ operator: 'extrude', inputs: {}, parameters: {} })
  })
  it('adds the inputs that pasted input cards show', () => {
    const other: GraphDocument = { format: 'reticula graph', version: 1, nodes: {} }
    paste(other, {
      format: 'reticula cards',
      version: 1,
      dials: {},
      nodes: { i: { operator: 'input', parameters: { name: 'reef' } } },
    })
    expect(other.inputs).toEqual([{ name: 'reef', help: '' }])
  })
  it('takes no other text for cards', () => {
    for (const text of [
      '',
      '{',
      '3',
      'null',
      '{"format":"reticula cards","version":1,"nodes":{"a":null}}',
      '{"nodes":{}}',
    ])
      expect(cardsFromText(text)).toBeNull()
  })
})
