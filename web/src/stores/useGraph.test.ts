import { applyPatch } from 'fast-json-patch'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { fakeService, settle, type Asked } from '../testing/fakeService'
import type { GraphDocument } from '../model/document'

function start(): GraphDocument {
  return {
    format: 'reticula graph',
    version: 1,
    nodes: { a: { operator: 'grid', parameters: {} } },
    dials: { h: { type: 'number', value: 1 } },
  }
}

/** A graph as the service keeps it: edits count up, stale ones get 409. */
function server() {
  const kept = {
    id: 'g',
    project_id: 'p',
    title: 't',
    revision: 0,
    document: start(),
    undo: null as string | null,
    redo: null,
  }
  let down = 0
  let refusing = 0
  const answer = ({ method, path, body }: Asked) => {
    if (method === 'GET') return { body: structuredClone(kept) }
    if (down-- > 0)
      return refusing ? { status: refusing, body: { code: 'x', message: `it is ${refusing}` } } : new Error()
    if (body.revision !== kept.revision)
      return { status: 409, body: { code: 'stale', message: 'stale', graph: structuredClone(kept) } }
    if (path.endsWith('/undo')) kept.document = start()
    else kept.document = applyPatch(kept.document, body.patch as never).newDocument
    kept.revision += 1
    kept.undo = (body.label as string) ?? null
    return { body: structuredClone(kept) }
  }
  return { kept, answer, goDown: (times: number, status = 0) => ((down = times), (refusing = status)) }
}

async function opened() {
  vi.resetModules()
  const service = server()
  const asked = fakeService(service.answer)
  const { useGraph } = await import('./useGraph')
  const graph = useGraph()
  await graph.open('g')
  return { graph, asked, ...service }
}

describe('the open graph', () => {
  beforeEach(() => vi.useRealTimers())

  it('does not say that all is saved while something is still being written', async () => {
    const { graph } = await opened()
    graph.announce()
    expect(graph.saveState.value).toBe('saving')
    graph.edit('another card', (next) => (next.nodes.b = { operator: 'box' }))
    await settle()
    expect(graph.saveState.value).toBe('saving')
    graph.withdraw()
    expect(graph.saveState.value).toBe('saved')
  })

  it('draws an edit at once and saves it in order', async () => {
    const { graph, asked, kept } = await opened()
    graph.edit('first', (next) => (next.nodes.b = { operator: 'box' }))
    graph.edit('second', (next) => (next.dials!.h!.value = 2))
    expect(Object.keys(graph.document.value.nodes)).toEqual(['a', 'b'])
    expect(graph.saveState.value).toBe('saving')
    await settle()
    expect(graph.saveState.value).toBe('saved')
    expect(asked.slice(1).map(({ body }) => [body.revision, body.label])).toEqual([
      [0, 'first'],
      [1, 'second'],
    ])
    expect(kept.document.dials!.h!.value).toBe(2)
    expect(graph.undoLabel.value).toBe('second')
  })

  it('shows a preview without saving it, and takes it back', async () => {
    const { graph, asked } = await opened()
    graph.preview((next) => (next.dials!.h!.value = 5))
    expect(graph.document.value.dials!.h!.value).toBe(5)
    expect(graph.unsaved()).toEqual([{ op: 'replace', path: '/dials/h/value', value: 5 }])
    graph.preview((next) => (next.dials!.h!.value = 6))
    expect(graph.unsaved()).toHaveLength(1)
    graph.dropPreview()
    expect(graph.document.value.dials!.h!.value).toBe(1)
    expect(asked).toHaveLength(1)
  })

  it('saves nothing when nothing changed', async () => {
    const { graph, asked } = await opened()
    graph.edit('nothing', (next) => (next.dials!.h!.value = 1))
    await settle()
    expect(asked).toHaveLength(1)
    expect(graph.saveState.value).toBe('saved')
  })

  it('puts its edit on top of what another window saved', async () => {
    const { graph, kept } = await opened()
    kept.revision = 4
    kept.document.nodes.other = { operator: 'torus' }
    graph.edit('mine', (next) => (next.dials!.h!.value = 3))
    await settle()
    expect(Object.keys(graph.document.value.nodes)).toEqual(['a', 'other'])
    expect(kept.document.dials!.h!.value).toBe(3)
    expect(graph.hasUnsaved()).toBe(false)
  })

  it('says so when its edit does not fit what another window saved', async () => {
    const { graph, kept } = await opened()
    graph.edit('add', (next) => (next.nodes.a!.parameters = { cells: [1, 1] }))
    await settle()
    kept.revision += 1
    delete kept.document.nodes.a
    graph.edit('change a', (next) => (next.nodes.a!.parameters!.cells = [2, 2]))
    await settle()
    expect(graph.trouble.value).toContain("'change a' could not be kept")
    expect(graph.document.value.nodes).toEqual({})
  })

  it('waits for a service that is away and saves then', async () => {
    const { graph, kept, goDown } = await opened()
    vi.useFakeTimers()
    goDown(2)
    graph.edit('later', (next) => (next.dials!.h!.value = 9))
    await vi.advanceTimersByTimeAsync(100)
    expect(graph.saveState.value).toBe('waiting for the service')
    expect(graph.document.value.dials!.h!.value).toBe(9)
    await vi.advanceTimersByTimeAsync(5000)
    expect(graph.saveState.value).toBe('saved')
    expect(kept.document.dials!.h!.value).toBe(9)
  })

  it.each([401, 429, 503, 507])('keeps an edit that gets %i until it is taken, and says why', async (status) => {
    const { graph, kept, goDown } = await opened()
    vi.useFakeTimers()
    goDown(2, status)
    graph.edit('later', (next) => (next.dials!.h!.value = 9))
    await vi.advanceTimersByTimeAsync(100)
    expect(graph.saveState.value).toBe('waiting for the service')
    expect(graph.trouble.value).toBe(`it is ${status}`)
    graph.edit('more', (next) => (next.dials!.h!.value = 11))
    await vi.advanceTimersByTimeAsync(9000)
    expect(graph.saveState.value).toBe('saved')
    expect(graph.trouble.value).toBe('')
    expect(kept.document.dials!.h!.value).toBe(11)
    expect(kept.revision).toBe(2)
  })

  it('changes nothing where one may only look, but what is looked at', async () => {
    const { graph, kept } = await opened()
    graph.lookOnly.value = true
    await graph.open('g')
    graph.edit('turn', (next) => (next.dials!.h!.value = 9))
    graph.apply('fold', [{ op: 'remove', path: '/nodes/a' }])
    expect(graph.trouble.value).toContain('You may look at this project')
    graph.edit('look', (next) => (next.looking_at = 'a'))
    await settle()
    expect(graph.document.value.looking_at).toBe('a')
    await graph.open('g')
    expect(graph.document.value.looking_at).not.toBe('a')
    expect(graph.document.value.dials!.h!.value).toBe(1)
    expect(kept.revision).toBe(0)
    expect(graph.hasUnsaved()).toBe(false)
  })

  it('undoes through the service', async () => {
    const { graph } = await opened()
    graph.edit('turn', (next) => (next.dials!.h!.value = 9))
    await settle()
    graph.undo()
    await settle()
    expect(graph.document.value.dials!.h!.value).toBe(1)
  })

  it('undoes what is still on its way, once it has arrived', async () => {
    const { graph, asked } = await opened()
    graph.edit('turn', (next) => (next.dials!.h!.value = 9))
    expect(graph.undoLabel.value).toBe('turn')
    graph.undo()
    await settle()
    expect(asked.slice(1).map(({ path, body }) => [path.split('/').at(-1), body.revision])).toEqual([
      ['edits', 0],
      ['undo', 1],
    ])
    expect(graph.document.value.dials!.h!.value).toBe(1)
    expect(graph.saveState.value).toBe('saved')
  })

  it('undoes nothing on top of what others did in the meantime', async () => {
    const { graph, kept } = await opened()
    kept.revision = 4
    graph.undo()
    await settle()
    expect(kept.revision).toBe(4)
    expect(graph.trouble.value).toContain('nothing was undone')
    expect(graph.hasUnsaved()).toBe(false)
  })
})
