import { describe, expect, it, vi } from 'vitest'
import { fakeService, settle, type Asked } from '../testing/fakeService'

const done = (nodes: Record<string, string>, extra = {}) => ({
  body: {
    ticket: 't',
    state: 'done',
    progress: { done: 1, total: 1, node: '' },
    looks: [{ mesh: 1 }],
    error: null,
    nodes: Object.fromEntries(
      Object.entries(nodes).map(([id, state]) => [id, { state, key: `${id}-key`, notes: [], error: null }]),
    ),
    ...extra,
  },
})

const document = () => ({
  format: 'reticula graph',
  version: 1,
  looking_at: 'b',
  dials: { h: { type: 'number', value: 1 } },
  nodes: { a: { operator: 'grid' }, b: { operator: 'extrude', inputs: { geo: ['a'] } } },
})

async function opened(answer: (asked: Asked) => ReturnType<typeof done> | Promise<ReturnType<typeof done>>) {
  vi.resetModules()
  const asked = fakeService((one) => {
    if (one.method === 'GET' && one.path.startsWith('/api/graphs'))
      return {
        body: { id: 'g', project_id: 'p', title: '', revision: 0, document: document(), undo: null, redo: null },
      }
    return answer(one)
  })
  const { useGraph } = await import('./useGraph')
  const { useEvaluation } = await import('./useEvaluation')
  await useGraph().open('g')
  const evaluation = useEvaluation()
  evaluation.queries.value = [{ what: 'mesh' }]
  evaluation.follow()
  await settle()
  return {
    graph: useGraph(),
    evaluation,
    asked: asked.filter((one) => one.path.includes('evaluations') || one.path.includes('looks')),
    all: asked,
  }
}

const evaluations = (all: Asked[]) => all.filter((one) => one.method === 'POST' && one.path.endsWith('/evaluations'))

describe('evaluation', () => {
  it('follows the document, but not where cards lie', async () => {
    const { graph, evaluation, all } = await opened(() => done({ a: 'done', b: 'done' }))
    expect(evaluation.looks.value).toMatchObject({ node: 'b', key: 'b-key' })
    expect(evaluations(all)).toHaveLength(1)
    graph.preview((next) => (next.nodes.a!.place = [1, 2]))
    await settle()
    expect(evaluations(all)).toHaveLength(1)
    graph.preview((next) => (next.dials!.h!.value = 2))
    await settle()
    expect(evaluations(all)[1]!.body).toMatchObject({
      only_node: true,
      revision: 0,
      draft: [{ op: 'replace', path: '/dials/h/value', value: 2 }],
    })
  })

  it('never has two on the way, and ends with the newest', async () => {
    let release: (() => void)[] = []
    const { graph, all } = await opened((one) => {
      if (!one.path.endsWith('/evaluations')) return done({})
      return new Promise((resolve) => release.push(() => resolve(done({ a: 'done', b: 'done' }))))
    })
    for (const value of [2, 3, 4, 5]) {
      graph.preview((next) => (next.dials!.h!.value = value))
      await settle(2)
    }
    expect(evaluations(all)).toHaveLength(1)
    for (let i = 0; i < 4; i++) {
      const waiting = release
      release = []
      waiting.forEach((go) => go())
      await settle(4)
    }
    const sent = evaluations(all)
    expect(sent).toHaveLength(2)
    expect((sent[1]!.body.draft as { value: number }[])[0]!.value).toBe(5)
  })

  it('shows what feeds a failed node', async () => {
    const { evaluation, all } = await opened((one) =>
      one.path.endsWith('/looks') ? { body: { looks: [{ mesh: 'of a' }] } as never } : done({ a: 'done', b: 'failed' }),
    )
    expect(all.some((one) => one.path.endsWith('/looks') && one.body.node === 'a')).toBe(true)
    expect(evaluation.shownNode.value).toBe('a')
    expect(evaluation.looks.value?.answers).toEqual([{ mesh: 'of a' }])
  })

  it('keeps the last mesh when the evaluation as a whole fails, and says why', async () => {
    let broken = false
    const { graph, evaluation } = await opened(() =>
      broken
        ? done({}, { state: 'failed', nodes: null, error: { code: 'limit', message: 'took too long', node: 'b' } })
        : done({ a: 'done', b: 'done' }),
    )
    broken = true
    graph.preview((next) => (next.dials!.h!.value = 7))
    await settle()
    expect(evaluation.failure.value).toBe('took too long')
    expect(evaluation.looks.value?.node).toBe('b')
    expect(evaluation.reports.value.b!.state).toBe('failed')
    expect(evaluation.running.value).toBe(false)
  })
})
