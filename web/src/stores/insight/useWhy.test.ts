import { afterEach, describe, expect, it, vi } from 'vitest'
import { fakeService, settle, type Asked } from '../../testing/fakeService'

const state = {
  id: 'g',
  project_id: 'p',
  title: '',
  revision: 3,
  document: {
    format: 'reticula graph',
    version: 1,
    nodes: { a: { operator: 'box' }, b: { operator: 'reverse', inputs: { geo: ['a'] } } },
    dials: {},
    looking_at: 'b',
  },
  undo: null,
  redo: null,
}
const why = (asked: Asked, name: string) => ({
  what: 'why',
  name,
  value: '1',
  unit: '',
  carried: [],
  wrote: { feed: asked.body.node, kind: 'point', element: 4, name, value: '1', unit: '' },
  operator: 'box',
  how: 'changed it',
  texts: [],
  values: [],
  causes: [],
})

async function opened() {
  vi.resetModules()
  const asked = fakeService((one) => {
    if (!one.path.endsWith('/looks')) return { body: one.method === 'GET' ? state : {} }
    const query = (one.body.queries as { what: string; name?: string }[])[0]!
    if (query.name === 'gone')
      return { body: { looks: [{ what: 'error', error: { message: 'points have no ‘gone’ here' } }] } }
    return { body: { looks: [query.what === 'why' ? why(one, query.name!) : { what: 'missing', missing: true }] } }
  })
  const { useGraph } = await import('../useGraph')
  const { useSelectedCards } = await import('../useSelectedCards')
  const { useInspection } = await import('../useInspection')
  const { useWhy } = await import('./useWhy')
  const [graph, store] = [useGraph(), useWhy()]
  await graph.open('g')
  const questions = () =>
    asked
      .filter((one) => one.path.endsWith('/looks'))
      .map((one) => (one.body.queries as { what: string; name: string }[])[0]!)
      .filter((one) => one.what === 'why')
      .map((one) => one.name)
  store.asked.value = [{ feed: 'b', kind: 'point', element: 4, name: 'height' }]
  useInspection().panel.value = 'why'
  await settle()
  return { store, questions, traced: useSelectedCards().traced }
}

afterEach(() => vi.unstubAllGlobals())

describe('why a value is so', () => {
  it('is asked one value back at a time, each once', async () => {
    const { store, questions, traced } = await opened()
    store.goOn(0, { feed: 'a', kind: 'point', element: 4, name: 'cover' })
    await settle()
    expect(store.answers.value.map((one) => one.name)).toEqual(['height', 'cover'])
    expect(questions()).toEqual(['height', 'cover'])
    expect([...traced.value]).toEqual(['b', 'a'])
  })

  it('goes back to an earlier value without asking again', async () => {
    const { store, questions } = await opened()
    store.goOn(0, { feed: 'a', kind: 'point', element: 4, name: 'cover' })
    await settle()
    store.backTo(0)
    await settle()
    expect(store.answers.value.map((one) => one.name)).toEqual(['height'])
    store.goOn(0, { feed: 'a', kind: 'point', element: 4, name: 'position' })
    await settle()
    expect(questions()).toEqual(['height', 'cover', 'position'])
  })

  it('says what cannot be asked, and keeps what came before', async () => {
    const { store } = await opened()
    store.goOn(0, { feed: 'a', kind: 'point', element: 4, name: 'gone' })
    await settle()
    expect(store.trouble.value).toBe('points have no ‘gone’ here')
    expect(store.answers.value).toHaveLength(1)
    store.backTo(0)
    await settle()
    expect(store.trouble.value).toBe('')
  })
})
