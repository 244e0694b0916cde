import { describe, expect, it } from 'vitest'
import type { GraphDocument } from './document'
import { searchGraph } from './search'

const inner: GraphDocument = {
  format: 'reticula graph',
  version: 1,
  nodes: { mark: { operator: 'group', parameters: { name: 'crest', where: 'cover > 0.5' } } },
}
const document: GraphDocument = {
  format: 'reticula graph',
  version: 1,
  nodes: {
    a: { operator: 'grid', title: 'Sheet' },
    f: { operator: 'folded', title: 'Marks', graph: inner },
    b: { operator: 'extrude', parameters: { distance: { formula: 'cover * 2' } } },
  },
}
const label = (node: { operator: string }) => node.operator.replaceAll('_', ' ')

describe('search in a graph', () => {
  it('finds titles, parameters and attributes at any depth', () => {
    expect(searchGraph(document, 'sheet', label).map((entry) => entry.id)).toEqual(['a'])
    const cover = searchGraph(document, 'cover', label)
    expect(cover.map((entry) => [entry.path.join(), entry.id, entry.where])).toEqual([
      ['', 'b', 'distance: cover * 2'],
      ['f', 'mark', 'where: cover > 0.5'],
    ])
  })
  it('looks into published operators', () => {
    const outer: GraphDocument = { ...document, nodes: { tile: { operator: 'tile@1.0.0' } } }
    expect(searchGraph(outer, 'cover', label)).toEqual([])
    const found = searchGraph(outer, 'cover', label, { 'tile@1.0.0': document })
    expect(found.map((entry) => [entry.path.join('/'), entry.id])).toEqual([
      ['tile', 'b'],
      ['tile/f', 'mark'],
    ])
  })
  it('wants every word, and nothing without one', () => {
    expect(searchGraph(document, 'crest group', label).map((entry) => entry.id)).toEqual(['mark'])
    expect(searchGraph(document, 'crest sheet', label)).toEqual([])
    expect(searchGraph(document, '  ', label)).toEqual([])
  })
})
