import { afterEach, describe, expect, it, vi } from 'vitest'
import { fakeService, settle } from '../../testing/fakeService'

const document = (extra: object = {}) => ({
  format: 'reticula graph',
  version: 1,
  nodes: { own: { operator: 'script', parameters: { source: 'a = 1' } }, ...extra },
  dials: {},
  looking_at: 'own',
})
const round = (number: number) => ({
  number,
  block: {
    seen: [],
    lines: [[2, `value ${number}`]],
    loops: [],
    marks: [{ question: 'ray', place: [2, 1, 1], begin: [0, 0, 0], ends: [[number, 0, 0]], found: true }],
  },
})
const live = (element: number | null) => ({
  what: 'live',
  kind: 'point',
  element,
  missing: '',
  block: {
    seen: [],
    lines: [],
    loops: [{ place: [1, 1, 1], what: 'for', name: 'i', total: 3, rounds: [round(0), round(1), round(2)] }],
    marks: [],
  },
  result: '',
  error: null,
  cut: false,
})

async function opened(extra: object = {}) {
  vi.resetModules()
  const queries: Record<string, unknown>[] = []
  fakeService((one) => {
    if (one.path.endsWith('/evaluations'))
      return {
        body: {
          ticket: 't',
          state: 'done',
          progress: { done: 1, total: 1, node: '' },
          looks: [{}],
          nodes: { own: { state: 'done', key: 'own-key', notes: [], error: null } },
          error: null,
        },
      }
    if (!one.path.endsWith('/looks'))
      return {
        body: { id: 'g', project_id: 'p', title: '', revision: 0, document: document(extra), undo: null, redo: null },
      }
    const query = (one.body.queries as Record<string, unknown>[])[0]!
    queries.push(query)
    if (query.what === 'wires') return { body: { looks: [{ what: 'wires', values: { half: '0.5' } }] } }
    return { body: { looks: [live(query.element as number | null)] } }
  })
  const { useGraph } = await import('../useGraph')
  const { useEvaluation } = await import('../useEvaluation')
  const { useSelection } = await import('../useSelection')
  const { useLive } = await import('./useLive')
  const [graph, selection, store] = [useGraph(), useSelection(), useLive()]
  await graph.open('g')
  useEvaluation().queries.value = [{ what: 'mesh' }]
  useEvaluation().follow()
  await settle()
  return { store, selection, queries }
}

afterEach(() => vi.unstubAllGlobals())

describe('live values', () => {
  it('are asked for the element that was picked last', async () => {
    const { store, selection, queries } = await opened()
    selection.kind.value = 'point'
    await settle()
    selection.pick(3, false, 'ledger')
    selection.pick(7, true, 'ledger')
    await store.ask('own', 'source', 'a = 1')
    expect(queries.at(-1)).toEqual({
      what: 'live',
      node: 'own',
      parameter: 'source',
      source: 'a = 1',
      kind: 'point',
      element: 7,
    })
    expect(store.isAbout('own', 'source', 'a = 1')).toBe(true)
    expect(store.isAbout('own', 'source', 'a = 2')).toBe(false)
    expect(store.of('own', 'source')!.element).toBe(7)
  })

  it('are shown and drawn of one round at a time', async () => {
    const { store } = await opened()
    await store.ask('own', 'source', 'a = 1')
    store.draw('own', 'source')
    expect(store.shown('own', 'source')!.lines.get(2)).toBe('value 2')
    store.step('1:1', 0)
    expect(store.shown('own', 'source')!.lines.get(2)).toBe('value 0')
    expect(store.paths.value).toEqual([
      [
        [0, 0, 0],
        [0, 0, 0],
      ],
    ])
    store.draw('', '')
    expect(store.paths.value).toEqual([])
    expect(store.shown('own', 'source')!.lines.get(2)).toBe('value 2')
  })

  it('are not asked of a card that is gone', async () => {
    const { store, queries } = await opened()
    await store.ask('nobody', 'source', 'a = 1')
    expect(queries.filter((one) => one.what === 'live')).toEqual([])
  })

  it('are asked of wires where there are any', async () => {
    const plain = await opened()
    await settle()
    expect(plain.queries.some((one) => one.what === 'wires')).toBe(false)
    const wired = await opened({ wall: { operator: 'extrude', parameters: { distance: { wire: 'half' } } } })
    await settle()
    expect(wired.store.wires.value).toEqual({ half: '0.5' })
  })
})
