import { afterEach, describe, expect, it, vi } from 'vitest'
import { fakeService, settle, type Asked } from '../../testing/fakeService'

const document = (title: string) => ({
  format: 'reticula graph',
  version: 1,
  nodes: { a: { operator: 'box', title } },
  dials: {},
  looking_at: 'a',
})
const state = (revision: number, title: string) => ({
  id: 'g',
  project_id: 'p',
  title: '',
  revision,
  document: document(title),
  undo: null,
  redo: null,
})
const edit = (revision: number) => ({
  revision,
  kind: 'edit',
  label: `edit ${revision}`,
  target: null,
  author: '',
  at: '2026-05-01T10:00:00+00:00',
  name: '',
})

async function opened() {
  vi.resetModules()
  const asked = fakeService((one: Asked) => {
    if (one.path.endsWith('/edits')) return { body: { edits: [edit(1), edit(2)] } }
    if (one.path.endsWith('/moments/1') && one.method === 'GET')
      return { body: { revision: 1, document: document('then') } }
    if (one.path.endsWith('/moments/9'))
      return { status: 422, body: { code: 'graph', message: 'there is no revision 9' } }
    if (one.path.includes('/moments?')) return { body: { changes: [{ node: 'a', what: 'title then → now' }], more: 0 } }
    if (one.path.endsWith('/back')) return { body: state(3, 'then') }
    return { body: state(2, 'now') }
  })
  const { useGraph } = await import('../useGraph')
  const { useHistory } = await import('./useHistory')
  const [graph, history] = [useGraph(), useHistory()]
  await graph.open('g')
  await history.load()
  return { graph, history, asked }
}

afterEach(() => vi.unstubAllGlobals())

describe('an earlier moment', () => {
  it('is looked at, and nothing can be changed there', async () => {
    const { graph, history, asked } = await opened()
    await history.look(1)
    expect(history.lookedAt.value).toBe(1)
    expect(graph.document.value.nodes.a!.title).toBe('then')
    expect(graph.basis()).toMatchObject({ revision: 1, draft: [] })
    graph.edit('rename', (next) => (next.nodes.a!.title = 'other'))
    await settle()
    expect(graph.trouble.value).toContain('You look at an earlier moment')
    expect(asked.some((one) => one.method === 'POST')).toBe(false)
    await history.look(2)
    expect(graph.past.value).toBeNull()
    expect(graph.document.value.nodes.a!.title).toBe('now')
  })

  it('is gone back to by an edit', async () => {
    const { graph, history, asked } = await opened()
    await history.look(1)
    await history.goBack(1, 'edit 1')
    expect(graph.past.value).toBeNull()
    expect(graph.state.value!.revision).toBe(3)
    expect(asked.find((one) => one.path.endsWith('/back'))!.body).toMatchObject({
      revision: 2,
      to: 1,
      label: 'back to ‘edit 1’',
    })
  })

  it('is compared in words, and what is not there is said', async () => {
    const { history } = await opened()
    await history.compare(1, 2)
    expect(history.compared.value!.changes).toEqual([{ node: 'a', what: 'title then → now' }])
    await history.look(9)
    expect(history.trouble.value).toBe('there is no revision 9')
    expect(history.title(history.history.value.moments[0])).toBe('edit 1')
    expect(history.title(undefined)).toBe('the beginning')
  })
})
