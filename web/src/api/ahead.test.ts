import { beforeEach, expect, it, vi } from 'vitest'

const api = vi.hoisted(() => ({ graph: vi.fn(), projects: vi.fn(), operators: vi.fn(), settings: vi.fn() }))
const openLine = vi.hoisted(() => vi.fn())
vi.mock('./client', () => ({ api }))
vi.mock('./line', () => ({ openLine }))

const { ahead, askAhead, graphAhead } = await import('./ahead')

beforeEach(() => {
  vi.resetAllMocks()
  api.graph.mockImplementation((id: string) => Promise.resolve({ id }))
  for (const what of [api.projects, api.operators, api.settings]) what.mockResolvedValue({ projects: [] })
})

it('asks once for what the page needs in any case', async () => {
  askAhead('abc')
  expect(openLine).toHaveBeenCalledOnce()
  expect(await ahead('projects')).toEqual({ projects: [] })
  expect(await graphAhead('abc')).toEqual({ id: 'abc' })
  expect([api.graph.mock.calls.length, api.projects.mock.calls.length]).toEqual([1, 1])
  await ahead('projects')
  expect(api.projects).toHaveBeenCalledTimes(2) // a later one is asked anew: much may have changed
})

it('asks again for what was refused before one had signed in', async () => {
  api.graph.mockRejectedValueOnce(new Error('sign in'))
  api.projects.mockRejectedValueOnce(new Error('sign in'))
  askAhead('abc')
  expect(await ahead('projects')).toEqual({ projects: [] })
  expect(await graphAhead('abc')).toEqual({ id: 'abc' })
  expect([api.graph.mock.calls.length, api.projects.mock.calls.length]).toEqual([2, 2])
})

it('asks for the graph that is wanted by then, and none for a share link', async () => {
  askAhead('abc')
  expect(await graphAhead('other')).toEqual({ id: 'other' })
  api.graph.mockClear()
  askAhead('link=secret')
  expect(api.graph).not.toHaveBeenCalled()
  api.graph.mockRejectedValueOnce(new Error('gone'))
  expect(await graphAhead('lost')).toBeNull()
})
