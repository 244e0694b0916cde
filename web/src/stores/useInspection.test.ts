import { describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { fakeService, settle, type Asked } from '../testing/fakeService'

const nodes = {
  scan: { operator: 'project_shape' },
  block: { operator: 'box', parameters: { size: [1, 2, 3] } },
  cut: { operator: 'slice', inputs: { geo: ['block'] }, parameters: { direction: [0, 0, 1] } },
}
const parameter = (name: string, preset: unknown, shape: string | null, at: string[] = []) => ({
  name,
  label: name,
  widget: 'vector',
  default: preset,
  unit: 'm',
  help: '',
  takes_formula: true,
  takes_wire: true,
  shown_when: null,
  handle: shape ? { shape, at, space: 'own' } : null,
})
const slice = {
  name: 'slice',
  label: 'slice',
  family: 'solids',
  summary: '',
  description: '',
  carries: '',
  keywords: [],
  version: 1,
  inputs: [],
  outputs: [],
  makes_value: false,
  holds_graph: false,
  declares_inputs: false,
  parameters: [parameter('through', [0, 0, 0], 'place'), parameter('direction', [0, 1, 0], 'plane', ['through'])],
}
const PLACE = [1, 0, 0, 5, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]

/** Open a graph that looks at `cut`, with everything done; `looks` answers what is asked of nodes. */
async function opened(looks: (query: Record<string, unknown>, asked: Asked) => unknown) {
  vi.resetModules()
  const asked = fakeService((one) => {
    if (one.path === '/api/operators')
      return { body: { operators: [slice], functions: [], formats: {}, attribute_types: {}, dial_types: {} } }
    if (one.method === 'GET' || one.path.endsWith('/edits'))
      return {
        body: {
          id: 'g',
          project_id: 'p',
          title: '',
          revision: 4,
          document: { format: 'reticula graph', version: 1, nodes, looking_at: 'cut', dials: {} },
          undo: null,
          redo: null,
        },
      }
    if (one.path.endsWith('/checks'))
      return {
        body: {
          nodes: {
            cut: {
              key: 'cut-key',
              skipped: false,
              found: [{ name: 'open borders', kind: 'edge', count: 3, help: '' }],
            },
            block: { key: 'block-key', skipped: true, found: [] },
          },
        },
      }
    if (one.path.endsWith('/looks'))
      return { body: { looks: (one.body.queries as Record<string, unknown>[]).map((query) => looks(query, one)) } }
    const reports = Object.fromEntries(
      Object.keys(nodes).map((id) => [id, { state: 'done', key: `${id}-key`, notes: [], error: null }]),
    )
    return {
      body: {
        ticket: 't',
        state: 'done',
        progress: { done: 1, total: 1, node: '' },
        looks: [{}],
        nodes: reports,
        error: null,
      },
    }
  })
  const { useGraph } = await import('./useGraph')
  const { useEvaluation } = await import('./useEvaluation')
  const { useInspection } = await import('./useInspection')
  const { useCatalogue } = await import('./useCatalogue')
  await useCatalogue().load()
  await useGraph().open('g')
  useEvaluation().queries.value = [{ what: 'mesh' }]
  useEvaluation().follow()
  await settle()
  const of = (what: string) =>
    asked.filter(
      (one) =>
        one.path.endsWith('/looks') && (one.body.queries as { what: string }[]).some((query) => query.what === what),
    )
  return { inspect: useInspection(), graph: useGraph(), evaluation: useEvaluation(), asked, of }
}

describe('comparing', () => {
  it('asks how far the shown result is from another card’s', async () => {
    const { inspect, of } = await opened(() => ({ what: 'difference', moved: 2, farthest: 0.5 }))
    inspect.toggle('compare')
    inspect.other.value = 'block'
    await settle()
    expect(of('difference').at(-1)!.body).toMatchObject({
      node: 'cut',
      queries: [{ what: 'difference', to: 'block', at: null }],
    })
    expect(inspect.difference.value).toMatchObject({ farthest: 0.5 })
  })

  it('asks for itself at an earlier moment, without the draft', async () => {
    const { inspect, graph, of } = await opened(() => ({ moved: 0 }))
    inspect.toggle('compare')
    inspect.other.value = '@2'
    await settle()
    expect(of('difference').at(-1)!.body).toMatchObject({ queries: [{ what: 'difference', to: 'cut', at: 2 }] })
    graph.preview((next) => (next.nodes.block!.parameters!.size = [2, 2, 2]))
    await inspect.askOther([{ what: 'mesh' }])
    expect(of('mesh').at(-1)!.body).toMatchObject({ node: 'cut', revision: 2, draft: [] })
  })

  it('has nothing to compare with once the card is gone', async () => {
    const { inspect } = await opened(() => ({}))
    inspect.other.value = 'nowhere'
    expect(inspect.isChosen.value).toBe(false)
    expect(await inspect.askOther([{ what: 'mesh' }])).toBeNull()
  })

  it('says what went wrong', async () => {
    const { inspect } = await opened(() => ({
      what: 'error',
      error: { code: 'graph', message: 'there was no such node then' },
    }))
    inspect.toggle('compare')
    inspect.other.value = '@0'
    await settle()
    expect(inspect.trouble.value).toBe('there was no such node then')
    expect(inspect.difference.value).toBeNull()
  })
})

describe('checks and traces', () => {
  it('keep checks apart from what may be meant', async () => {
    const { inspect } = await opened((query) =>
      query.what === 'checks'
        ? { what: 'checks', checks: [{ name: 'open borders' }], remarks: [{ name: 'uv overlaps' }] }
        : {},
    )
    inspect.toggle('checks')
    await settle()
    expect(inspect.checks.value).toMatchObject({
      checks: [{ name: 'open borders' }],
      remarks: [{ name: 'uv overlaps' }],
    })
  })

  it('mark the cards and places that an element came through', async () => {
    const { inspect } = await opened((query) =>
      query.what === 'trace'
        ? {
            what: 'trace',
            steps: [
              { feed: 'cut', position: [0, 1, 0] },
              { feed: 'block', position: [0, 2, 0] },
            ],
          }
        : {},
    )
    const { useSelection } = await import('./useSelection')
    const { useSelectedCards } = await import('./useSelectedCards')
    inspect.toggle('trace')
    useSelection().choose([7], false)
    await settle()
    expect([...useSelectedCards().traced.value]).toEqual(['cut', 'block'])
    expect(inspect.places.value).toEqual([
      [0, 1, 0],
      [0, 2, 0],
    ])
    inspect.toggle('trace')
    await settle()
    expect(useSelectedCards().traced.value.size).toBe(0)
    expect(inspect.places.value).toEqual([])
  })

  it('are counted for every card once an evaluation rests', async () => {
    const { asked } = await opened(() => ({}))
    const { useChecks } = await import('./useChecks')
    const card = effectScope()
    const checks = card.run(useChecks)!
    card.stop()
    await new Promise((wake) => setTimeout(wake, 700))
    const counted = () => asked.filter((one) => one.path.endsWith('/checks')).length
    expect(counted(), 'the evaluation had come to rest before a card was there').toBe(1)
    expect(checks.of('cut', 'cut-key')).toMatchObject([{ name: 'open borders', count: 3 }])
    expect(checks.of('cut', 'another key')).toEqual([])
    expect(checks.of('block', undefined)).toEqual([])
    expect(checks.isLeftOut('cut', 'cut-key')).toBe(false)
    expect(checks.isLeftOut('block', 'block-key')).toBe(true)
  })
})

describe('handles of the selected card', () => {
  async function held() {
    const shown: { held: Record<string, unknown> | null; move: ((value: number[], done: boolean) => void) | null } = {
      held: null,
      move: null,
    }
    const all = await opened((query) => (query.what === 'place' ? { what: 'place', matrix: PLACE } : {}))
    const { useHandle } = await import('../view/tools/useHandle')
    const { useSelectedCards } = await import('./useSelectedCards')
    const handle = {
      busy: false,
      snap: vi.fn(),
      show: (value: never, move: never) => Object.assign(shown, { held: value, move }),
    }
    const handles = useHandle(
      () => handle as never,
      () => 2,
    )
    useSelectedCards().cards.value = ['cut']
    await settle()
    return { ...all, shown, handles, handle }
  }

  it('stand in the space of the card’s input', async () => {
    const { shown, handles, of } = await held()
    expect(of('place').at(-1)!.body).toMatchObject({ node: 'block' })
    expect(shown.held).toMatchObject({ shape: 'place', value: [0, 0, 0], matrix: PLACE })
    handles.which.value = 1
    await nextTick()
    expect(shown.held).toMatchObject({ shape: 'plane', value: [0, 0, 1], base: [0, 0, 0], reach: 0.6 })
  })

  it('show a change while they are dragged and save it when they are let go', async () => {
    const { shown, graph, asked } = await held()
    shown.move!([1, 0, 0], false)
    expect(graph.draft.value).toHaveLength(1)
    expect(asked.some((one) => one.path.endsWith('/edits'))).toBe(false)
    shown.move!([2, 0, 0], true)
    await settle()
    const edit = asked.find((one) => one.path.endsWith('/edits'))!
    expect(edit.body).toMatchObject({
      revision: 4,
      label: 'move through',
      patch: [{ op: 'add', path: '/nodes/cut/parameters/through', value: [2, 0, 0] }],
    })
  })

  it('are gone with the selection', async () => {
    const { shown } = await held()
    const { useSelectedCards } = await import('./useSelectedCards')
    useSelectedCards().cards.value = []
    await settle()
    expect(shown.held).toBeNull()
  })
})

it('asks how values are spread only while that is shown', async () => {
  const { of } = await opened((query) =>
    query.what === 'statistics'
      ? { what: 'statistics', kinds: { face: [{ name: 'area', part: -1, type: 'number', mean: 2 }] } }
      : {},
  )
  const { useStatistics } = await import('../ledger/useStatistics')
  const [shown, kind, where] = [ref(false), ref<'face' | 'point'>('face'), ref('area > 1')]
  const spreads = useStatistics(shown, kind, where)
  await settle()
  expect(of('statistics')).toHaveLength(0)
  shown.value = true
  await settle()
  expect(of('statistics').at(-1)!.body).toMatchObject({
    queries: [{ what: 'statistics', kind: 'face', where: 'area > 1' }],
  })
  expect(spreads.of('area', -1)).toMatchObject({ mean: 2 })
  expect(spreads.of('area', 0)).toBeNull()
})
