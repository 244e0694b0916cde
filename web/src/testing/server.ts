/** A service with one graph that counts up with every edit, for tests of what is built on it. */
import { applyPatch } from 'fast-json-patch'
import { vi } from 'vitest'
import type { GraphDocument } from '../model/document'
import { fakeService, type Asked } from './fakeService'

export const operator = (name: string, more: object = {}) => ({
  name,
  label: name.replaceAll('_', ' '),
  family: 'shapes',
  summary: '',
  description: '',
  carries: '',
  keywords: [],
  version: 1,
  inputs: [{ name: 'geo', help: '', many: false, optional: false }],
  outputs: [{ name: 'geo', help: '' }],
  makes_value: false,
  holds_graph: false,
  declares_inputs: false,
  parameters: [],
  ...more,
})

/** Open a graph; `answer` may answer more than the graph itself. */
export async function openGraph(
  nodes: GraphDocument['nodes'],
  operators: object[] = [],
  answer: (asked: Asked) => unknown = () => null,
) {
  vi.resetModules()
  const document: GraphDocument = { format: 'reticula graph', version: 1, nodes, dials: {}, looking_at: null }
  const kept = { id: 'g', project_id: 'p', title: '', revision: 0, document, undo: null, redo: null }
  const asked = fakeService((one) => {
    const given = answer(one)
    if (given) return given
    if (one.path === '/api/operators') return { body: { operators, functions: [], formats: {} } }
    if (one.path.endsWith('/edits')) {
      kept.document = applyPatch(kept.document, one.body.patch as never).newDocument
      kept.revision += 1
    }
    return { body: structuredClone(kept) }
  })
  const { useCatalogue } = await import('../stores/useCatalogue')
  await useCatalogue().load()
  const { useGraph } = await import('../stores/useGraph')
  const graph = useGraph()
  await graph.open('g')
  return { graph, asked, kept }
}
