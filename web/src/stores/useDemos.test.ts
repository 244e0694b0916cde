import { expect, test, vi } from 'vitest'
import { api } from '../api/client'
import { useDemos } from './useDemos'
import { useProject } from './useProject'

const summary = { name: 'tile', title: 'Tile', about: 'A tile.', cards: 3, picture: true, sheet: true }
const scan = { name: 'scan', file_name: 'scan.ply' }

test('a demo is taken with the shapes that it needs, and opened if it is there', async () => {
  const project = useProject()
  vi.spyOn(api, 'demos').mockResolvedValue({ demos: [summary] })
  vi.spyOn(api, 'demo').mockResolvedValue({
    ...summary,
    document: { title: 'Tile', nodes: {} },
    shapes: [scan, { name: 'here', file_name: 'here.ply' }],
  })
  const sheet = new File([], 'tile.zip')
  vi.spyOn(api, 'demoSheet').mockResolvedValue(sheet)
  const fetched = vi.spyOn(api, 'demoShape').mockResolvedValue(new File([], 'scan.ply'))
  const uploaded = vi.spyOn(project, 'upload').mockResolvedValue({} as never)
  const added = vi.spyOn(project, 'addGraph').mockResolvedValue()
  const opened = vi.spyOn(project, 'openGraph').mockResolvedValue()
  project.shapes.value = [{ name: 'here' }] as never
  const { demos, trouble, load, take } = useDemos()
  vi.mocked(api.demos).mockRejectedValueOnce(new Error('The service does not answer.'))
  await load()
  expect([demos.value.length, trouble.value]).toEqual([0, 'The service does not answer.'])
  await load()
  expect(trouble.value).toBe('')
  expect(demos.value[0]!.graph).toBeNull()
  await take('tile')
  expect(fetched.mock.calls).toEqual([[scan]])
  expect(uploaded).toHaveBeenCalledTimes(1)
  expect(added.mock.calls).toEqual([['Tile', { title: 'Tile', nodes: {} }, sheet]])
  project.graphs.value = [{ id: 'g7', title: 'Tile' }] as never
  await take('tile')
  expect(opened.mock.calls).toEqual([['g7']])
  expect(added).toHaveBeenCalledTimes(1)
})

test('an example is opened once, with the shapes that it needs, as the address asks for it', async () => {
  const project = useProject()
  project.shapes.value = []
  project.graphs.value = []
  const document = { title: 'Example of extrude', nodes: {} }
  vi.spyOn(api, 'example').mockResolvedValue({ text: 'extrude(grid())', document, shapes: [scan] })
  vi.spyOn(api, 'demoShape').mockResolvedValue(new File([], 'scan.ply'))
  const uploaded = vi.spyOn(project, 'upload').mockResolvedValue({} as never)
  const added = vi.spyOn(project, 'addGraph').mockResolvedValue()
  const opened = vi.spyOn(project, 'openGraph').mockResolvedValue()
  opened.mockClear()
  const { follow } = useDemos()
  await follow('?example=extrude')
  expect(added.mock.lastCall).toEqual(['Example of extrude', document, null])
  expect(uploaded).toHaveBeenCalled()
  project.graphs.value = [{ id: 'g9', title: 'Example of extrude' }] as never
  await follow('?example=extrude')
  expect(opened.mock.calls).toEqual([['g9']])
})

test('what cannot be taken is said, and another one may be', async () => {
  const project = useProject()
  project.graphs.value = []
  vi.spyOn(api, 'demo').mockRejectedValueOnce(new Error('gone'))
  vi.stubGlobal('document', { createElement: () => ({}) })
  const { taking, take } = useDemos()
  await take('tile').catch(() => null)
  expect(taking.value).toBe('')
})
