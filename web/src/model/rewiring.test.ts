import { expect, test } from 'vitest'
import type { GraphDocument } from './document'
import { moveInto, takeOut } from './rewiring'

const chain = (): GraphDocument => ({
  format: 'reticula graph',
  version: 1,
  outputs: [{ name: 'geo', feed: 'c' }],
  nodes: {
    a: { operator: 'grid' },
    b: { operator: 'extrude', inputs: { geo: ['a'] } },
    c: { operator: 'smooth', title: 'Soft', inputs: { geo: ['b'] } },
    d: { operator: 'bevel', inputs: { geo: ['c'] } },
  },
})

test('a node moves up its chain, and what it fed is fed from before it', () => {
  const document = chain()
  expect(moveInto(document, 'c', 'geo', { source: 'a', below: new Set(['b', 'c', 'd']) })).toBe('')
  expect(document.nodes.c!.inputs).toEqual({ geo: ['a'] })
  expect(document.nodes.b!.inputs).toEqual({ geo: ['c'] })
  expect(document.nodes.d!.inputs).toEqual({ geo: ['b'] })
  expect(document.outputs![0]!.feed).toBe('b')
})

test('only what stands below the gap is fed by it; others keep what they have', () => {
  const document = chain()
  document.nodes.e = { operator: 'measure', inputs: { geo: ['a'] } }
  expect(moveInto(document, 'd', 'geo', { source: 'a', below: new Set(['e']) })).toBe('')
  expect(document.nodes.e.inputs).toEqual({ geo: ['d'] })
  expect(document.nodes.b!.inputs).toEqual({ geo: ['a'] })
})

test('an output other than the first is kept', () => {
  const document = chain()
  document.nodes.b!.inputs = { geo: ['a:lines'] }
  expect(moveInto(document, 'd', 'geo', { source: 'a', below: new Set(['b']) })).toBe('')
  expect(document.nodes.d!.inputs).toEqual({ geo: ['a:lines'] })
})

test('what cannot be is said, and nothing changes', () => {
  const document = chain()
  const before = JSON.stringify(document)
  expect(moveInto(document, 'a', undefined, { source: 'b', below: new Set(['c']) })).toContain('begins a chain')
  expect(moveInto(document, 'b', 'geo', { source: 'b', below: new Set(['c']) })).toContain('already')
  expect(moveInto(document, 'b', 'geo', { source: 'a', below: new Set(['b', 'c', 'd']) })).toContain('already')
  expect(JSON.stringify(document)).toBe(before)
  document.nodes.v = { operator: 'nearest', inputs: { geo: ['a'] } }
  document.nodes.d!.parameters = { by: { wire: 'v' } }
  expect(moveInto(document, 'v', 'geo', { source: 'd', below: new Set() })).toContain('needs ‘v’ itself')
})

test('a node that is taken out leaves no wire behind', () => {
  const document = chain()
  takeOut(document, 'b')
  expect(document.nodes.c!.inputs).toEqual({ geo: ['a'] })
  expect(document.nodes.b!.inputs).toEqual({})
  takeOut(document, 'a')
  expect(document.nodes.c!.inputs).toEqual({})
  takeOut(document, 'nobody')
})
