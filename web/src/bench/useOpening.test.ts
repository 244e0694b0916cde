import { beforeEach, expect, it, vi } from 'vitest'
import { ref } from 'vue'

const follow = vi.fn()
const start = vi.fn()
const takeAsked = vi.fn()
const queries = ref<unknown[]>([])

async function opening(project: (begin: () => void) => Promise<void>, session = '', search = '') {
  vi.stubGlobal('location', { search })
  vi.doMock('../stores/useDemos', () => ({ useDemos: () => ({ follow: takeAsked }) }))
  start.mockImplementation(project)
  vi.doMock('../stores/useSession', () => ({ useSession: () => ({ trouble: ref(session) }) }))
  vi.doMock('../stores/useCatalogue', () => ({ useCatalogue: () => ({ load: () => Promise.resolve() }) }))
  vi.doMock('../stores/useTheme', () => ({ useTheme: () => ({ load: () => Promise.resolve() }) }))
  vi.doMock('../stores/useProject', () => ({ useProject: () => ({ start }) }))
  vi.doMock('../stores/useEvaluation', () => ({ useEvaluation: () => ({ queries, follow }) }))
  const { useOpening } = await import('./useOpening')
  return useOpening()
}

beforeEach(() => {
  vi.resetModules()
  follow.mockReset()
  start.mockReset()
  queries.value = []
})

it('begins to evaluate what the view asks as soon as the graph is there, once', async () => {
  let rest = () => {}
  const { opened, open } = await opening((begin) => {
    begin()
    return new Promise<void>((done) => (rest = done))
  })
  const both = Promise.all([open(), open()])
  expect(follow).toHaveBeenCalledTimes(1)
  await vi.waitFor(() => expect(opened.value).toBe(true))
  rest()
  await both
  expect(opened.value).toBe(true)
  expect(start).toHaveBeenCalledTimes(1)
  expect(follow).toHaveBeenCalledTimes(1)
  expect(queries.value).toContainEqual(expect.objectContaining({ what: 'mesh' }))
})

it('opens what the address asks for, once the project is there', async () => {
  const { open } = await opening(() => Promise.resolve(), '', '?example=extrude')
  await open()
  expect(takeAsked.mock.calls).toEqual([['?example=extrude']])
})

it('tells what could not be read, and does not show half a bench', async () => {
  const { opened, trouble, open } = await opening(() => Promise.reject(new Error('The service does not answer.')))
  await open()
  expect(trouble.value).toBe('The service does not answer.')
  expect(opened.value).toBe(false)
  expect(follow).not.toHaveBeenCalled()
})

it('tells why it is not known who one is', async () => {
  const { trouble } = await opening(() => Promise.resolve(), 'The database is away.')
  expect(trouble.value).toBe('The database is away.')
})
