import { afterEach, describe, expect, it, vi } from 'vitest'
import { fakeService, settle, type Asked } from '../../testing/fakeService'

const node = (title: string) => ({ operator: 'box', title })
const state = (revision: number, title: string) => ({
  id: 'g',
  project_id: 'p',
  title: '',
  revision,
  document: {
    format: 'reticula graph',
    version: 1,
    nodes: { a: node(title), b: node('B') },
    dials: {},
    looking_at: 'a',
  },
  undo: null,
  redo: null,
})
const quiet = { version: 1, people: [], graph: null, edits: [] }

/** A page at a graph; `news` answers its questions about others, one after the other, then never again. */
async function joined(...news: object[]) {
  vi.resetModules()
  const told = [...news]
  const asked = fakeService((one: Asked) => {
    if (one.method === 'GET') return { body: state(0, 'A') }
    if (one.path.endsWith('/edits')) return { body: { ...state(1, 'mine'), undo: one.body.label } }
    const next = told.shift()
    return next ? { body: next } : new Promise(() => {})
  })
  const { useGraph } = await import('../useGraph')
  const { useCompany } = await import('./useCompany')
  const [graph, company] = [useGraph(), useCompany()]
  await graph.open('g')
  return { graph, company, asked }
}

afterEach(() => vi.unstubAllGlobals())

describe('others at the graph', () => {
  it('are known by what they look at', async () => {
    const person = { page: 'x', name: 'ines', looking_at: 'b:top', level: '' }
    const { company } = await joined({ ...quiet, people: [person, { ...person, page: 'y', name: '', level: 'tile' }] })
    company.join()
    await settle()
    expect(company.people.value.map((one) => one.called)).toEqual(['ines', 'page 3'])
    expect(company.lookers('b').map((one) => one.called)).toEqual(['ines'])
    expect(company.lookers('a')).toEqual([])
  })

  it('are told what this page looks at and knows', async () => {
    const { company, asked } = await joined({ ...quiet, version: 7 })
    company.join()
    await settle()
    const questions = asked.filter((one) => one.path.endsWith('/company')).map((one) => one.body)
    expect(questions[0]).toMatchObject({ looking_at: 'a', level: '', revision: 0, version: -1 })
    expect(questions[1]).toMatchObject({ version: 7 })
  })

  it('have their edits shown, with those of this page on top', async () => {
    const edit = {
      revision: 3,
      kind: 'edit',
      label: 'call it theirs',
      author: 'ines',
      key: 'k',
      paths: ['/nodes/a/title'],
    }
    const { graph, company } = await joined({ ...quiet, graph: state(3, 'theirs'), edits: [edit] })
    graph.edit('call it mine', (next) => (next.nodes.a!.title = 'mine'))
    await settle()
    company.join()
    await settle()
    expect(graph.state.value!.revision).toBe(3)
    expect(graph.document.value.nodes.a!.title).toBe('theirs')
    expect(company.notices.value).toEqual(['ines’s ‘call it theirs’ went over your ‘call it mine’.'])
  })

  it('do not take back what is newer here', async () => {
    const { graph, company } = await joined({ ...quiet, graph: state(0, 'old'), edits: [] })
    graph.edit('call it mine', (next) => (next.nodes.a!.title = 'mine'))
    await settle()
    company.join()
    await settle()
    expect(graph.document.value.nodes.a!.title).toBe('mine')
  })
})
