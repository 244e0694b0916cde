import { expect, test } from 'vitest'
import type { GraphDocument } from './document'
import { evaluationOrder, laneRows, lanesWide } from './lanes'

/** A graph from its wires: `to` is fed by the others. */
function graphOf(feeds: Record<string, string[]>): GraphDocument {
  return {
    format: 'reticula graph',
    version: 1,
    nodes: Object.fromEntries(
      Object.entries(feeds).map(([id, inputs]) => [id, { operator: 'any', inputs: { geo: inputs } }]),
    ),
  }
}

const never = () => false

test('each node stands below what feeds it, and a short branch where it joins', () => {
  const document = graphOf({ out: ['raise', 'scan'], scan: [], raise: ['cut'], cut: ['base'], base: [] })
  expect(evaluationOrder(document)).toEqual(['base', 'cut', 'raise', 'scan', 'out'])
})

test('a chain keeps to one lane, a branch takes a second one and gives it back', () => {
  const document = graphOf({ base: [], cut: ['base'], scan: [], join: ['cut', 'scan'], end: ['join'], more: ['end'] })
  const rows = laneRows(document, never)
  expect(rows.map((row) => [row.id, row.lane])).toEqual([
    ['base', 0],
    ['cut', 0],
    ['scan', 1],
    ['join', 0],
    ['end', 0],
    ['more', 0],
  ])
  const join = rows.find((row) => row.id === 'join')!
  expect(join.arrivals.map((one) => one.lane)).toEqual([0, 1])
  expect(join.past).toEqual([])
  expect(lanesWide(rows)).toBe(2)
})

test('what several take runs on to the last of them', () => {
  const rows = laneRows(graphOf({ base: [], left: ['base'], right: ['base'], both: ['left', 'right'] }), never)
  expect(rows.map((row) => row.id)).toEqual(['base', 'left', 'right', 'both'])
  expect(rows[1]!.past).toEqual([{ lane: 0, from: 'base', value: false }])
  expect(rows[1]!.lane).toBe(1)
  expect(rows[2]!.lane).toBe(0)
  expect(rows[3]!.after).toEqual([])
})

test('values have lanes of their own and give them back; wires from nowhere are left out', () => {
  const document = graphOf({ base: [], move: ['base', 'gone'] })
  document.nodes.wave = { operator: 'noise' }
  document.nodes.move!.parameters = { offset: { wire: 'wave' } }
  const rows = laneRows(document, (id) => id === 'wave')
  const move = rows.at(-1)!
  expect(move.id).toBe('move')
  expect(move.arrivals.filter((one) => one.value).map((one) => one.from)).toEqual(['wave'])
  expect(move.arrivals).toHaveLength(2)
})

test('a circle and a chain of thousands are walked through', () => {
  expect(evaluationOrder(graphOf({ a: ['b'], b: ['a'] })).sort()).toEqual(['a', 'b'])
  const long = Object.fromEntries(Array.from({ length: 5000 }, (_, i) => [`n${i}`, i ? [`n${i - 1}`] : []]))
  const rows = laneRows(graphOf(long), never)
  expect(rows.at(-1)!.id).toBe('n4999')
  expect(lanesWide(rows)).toBe(1)
})
