import { expect, it, vi } from 'vitest'
import { fakeService, type Asked } from '../testing/fakeService'

const graphOf = (id: string, project: string) => ({
  id,
  project_id: project,
  title: id,
  revision: 0,
  document: { format: 'reticula graph', version: 1, nodes: {}, dials: {} },
  undo: null,
  redo: null,
})

async function started(hash: string, graphs: Record<string, string[]>) {
  vi.resetModules()
  vi.stubGlobal('location', { hash, pathname: '/' })
  const addresses: string[] = []
  vi.stubGlobal('history', { replaceState: (_: unknown, __: string, to: string) => addresses.push(to) })
  const asked = fakeService(({ method, path, body }: Asked) => {
    const [, , first, id, what] = path.split('/')
    if (first === 'projects' && !id)
      return method === 'POST'
        ? { body: { id: 'new', title: body.title } }
        : { body: { projects: Object.keys(graphs).map((project) => ({ id: project, title: project })) } }
    if (first === 'projects' && what === 'graphs')
      return method === 'POST'
        ? { body: graphOf('made', id!) }
        : { body: { graphs: (graphs[id!] ?? []).map((one) => ({ id: one, title: one })) } }
    if (first === 'projects') return { body: { assets: [{ id: 's', name: 'reef' }] } }
    const project = Object.keys(graphs).find((one) => graphs[one]!.includes(id!))
    return project ? { body: graphOf(id!, project) } : id === 'made' ? { body: graphOf(id, 'p') } : { status: 404 }
  })
  const { useProject } = await import('./useProject')
  const project = useProject()
  await project.start()
  return { project, asked, addresses }
}

it('opens the graph that the address names, with its project', async () => {
  const { project, addresses, asked } = await started('#g3', { p: ['g1'], q: ['g2', 'g3'] })
  expect(project.project.value!.id).toBe('q')
  expect(addresses).toEqual(['/#g3'])
  expect(project.shapeNames.value).toEqual(['reef'])
  expect(asked.filter((one) => one.path === '/api/graphs/g3')).toHaveLength(1)
})

it('says that the graph is there before the lists of its project are', async () => {
  const { project, asked } = await started('#g1', { p: ['g1'] })
  const order: string[] = []
  asked.length = 0
  await project.start(() => order.push(`begun after ${asked.length} requests`))
  order.push('started')
  expect(order).toEqual(['begun after 4 requests', 'started'])
})

it('opens the first graph where the address names none that is there', async () => {
  expect((await started('#gone', { p: ['g1'] })).addresses).toEqual(['/#g1'])
  expect((await started('', { p: ['g1'] })).addresses).toEqual(['/#g1'])
})

it('makes a project and a graph where there are none', async () => {
  const { project, addresses } = await started('', {})
  expect(project.projects.value.map((one) => one.title)).toEqual(['My project'])
  expect(addresses).toEqual(['/#made'])
})
