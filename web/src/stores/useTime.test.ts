import { describe, expect, it, vi } from 'vitest'
import { fakeService, settle, type Asked } from '../testing/fakeService'

const RISING = {
  keys: [
    { frame: 2, value: 1 },
    { frame: 8, value: 3 },
  ],
}
const document = () => ({
  format: 'reticula graph',
  version: 1,
  looking_at: 'b',
  time: { first: 2, last: 9, rate: 100 },
  dials: {},
  nodes: {
    a: { operator: 'grid' },
    b: { operator: 'extrude', parameters: { distance: RISING }, inputs: { geo: ['a'] } },
  },
})

function evaluated(asked: Asked) {
  const frame = (asked.body as { frame: number | null }).frame
  return {
    body: {
      ticket: 't',
      state: 'done',
      progress: { done: 1, total: 1, node: '' },
      looks: [{ what: 'mesh' }],
      nodes: { b: { state: 'done', key: `b at ${frame}`, notes: [], error: null } },
      timely: ['b'],
      keyed: { nodes: { b: { distance: 1.23456789 } }, dials: {} },
      error: null,
    },
  }
}

async function opened() {
  vi.resetModules()
  const asked = fakeService((one) => {
    if (one.method === 'GET')
      return {
        body: { id: 'g', project_id: 'p', title: '', revision: 0, document: document(), undo: null, redo: null },
      }
    if (one.path === '/api/frame')
      return (one.body as { text: string }).text === '2+3'
        ? { body: { frame: 5 } }
        : { status: 422, body: { code: 'formula', message: 'no such name' } }
    return evaluated(one)
  })
  const { useGraph } = await import('./useGraph')
  const { useEvaluation } = await import('./useEvaluation')
  const { useTime } = await import('./useTime')
  await useGraph().open('g')
  const evaluation = useEvaluation()
  evaluation.queries.value = [{ what: 'mesh' }] as never
  const time = useTime()
  evaluation.follow()
  await settle()
  return { graph: useGraph(), evaluation, time, asked }
}

const frames = (asked: Asked[]) =>
  asked
    .filter((one) => one.path.endsWith('/evaluations'))
    .map((one) => one.body as { frame: number | null; ahead?: boolean; only_node: boolean })

describe('time', () => {
  it('begins at the first frame, is there where anything depends on time, and makes frames ready', async () => {
    const { time, asked } = await opened()
    expect(time.frame.value).toBe(2)
    expect(time.visible.value).toBe(true)
    expect(frames(asked)[0]).toMatchObject({ frame: null, only_node: false })
    expect(
      frames(asked)
        .slice(1)
        .every((one) => one.ahead),
    ).toBe(true)
    expect([...time.ready.value].sort()).toEqual([2, 3, 4, 5, 6, 7, 8, 9])
  })

  it('asks nobody for a frame that is ready, until it rests there', async () => {
    const { time, evaluation, asked } = await opened()
    const before = frames(asked).length
    time.go(6)
    await settle()
    expect(evaluation.shownFrame.value).toBe(6)
    expect(time.behind.value).toBe(false)
    expect(frames(asked)).toHaveLength(before)
    await vi.waitFor(() => expect(frames(asked)).toHaveLength(before + 1), { timeout: 2000 })
    expect(frames(asked).at(-1)).toMatchObject({ frame: 6, only_node: false })
  })

  it('sets keys where there are some, or the strip is armed, and knows values between them', async () => {
    const { time } = await opened()
    time.go(5)
    expect(time.now(RISING, 1.23456789)).toBe(1.23457)
    expect(time.now({ keys: [{ frame: 5, value: 7 }] }, 1)).toBe(7)
    expect(time.turned(RISING, 9, 'number')).toMatchObject({ keys: [{}, { frame: 5, value: 9 }, {}] })
    expect(time.turned(1, 9, 'number')).toBe(9)
    time.armed.value = true
    expect(time.turned(1, 9, 'number')).toEqual({ keys: [{ frame: 5, value: 9 }] })
    expect(time.turned(1, { formula: 'a' }, 'number')).toEqual({ formula: 'a' })
    expect(time.turned('a', 'b', 'where')).toBe('b')
  })

  it('takes frames as formulas, and says what is none', async () => {
    const { time } = await opened()
    await time.type('2+3')
    expect(time.frame.value).toBe(5)
    await time.type('nonsense')
    expect(time.frame.value).toBe(5)
    expect(time.trouble.value).toBe('no such name')
  })
})
