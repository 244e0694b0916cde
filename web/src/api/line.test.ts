import { beforeEach, expect, it, vi } from 'vitest'
import type { FromLine, ToLine } from './line.worker'

/** The worker of a line, which a test opens, answers for and closes. */
class FakeWorker {
  static made: FakeWorker[] = []
  told: ToLine[] = []
  onmessage: (event: { data: FromLine }) => void = () => {}
  onerror = () => {}
  constructor() {
    FakeWorker.made.push(this)
  }
  postMessage(told: ToLine) {
    this.told.push(told)
  }
  tell(...all: FromLine[]) {
    for (const data of all) this.onmessage({ data })
  }
}

beforeEach(() => {
  vi.resetModules()
  FakeWorker.made = []
  vi.stubGlobal('Worker', FakeWorker)
  vi.stubGlobal('location', { protocol: 'http:', host: 'localhost' })
})

it('asks over one line, and gets progress, arrays and answers in any order', async () => {
  const { askOverLine } = await import('./line')
  const { fetchBuffer } = await import('./buffers')
  const told: unknown[] = []
  const first = askOverLine('POST', '/api/graphs/g/looks', '{"a":1}', (now) => told.push(now.done))
  const second = askOverLine('GET', '/api/evaluations/t?wait=1', '')
  expect(FakeWorker.made).toHaveLength(1)
  const worker = FakeWorker.made[0]!
  expect(worker.told).toHaveLength(3)
  expect(worker.told.slice(0, 2)).toEqual([
    { open: 'ws://localhost/api/live' },
    { send: '{"id":1,"method":"POST","path":"/api/graphs/g/looks"}\n{"a":1}' },
  ])
  const digest = '0123456789abcdef0123456789abcdef'
  worker.tell(
    { text: '{"id":1,"progress":{"done":3}}\n' },
    { text: '{"id":2,"status":200}\n{"b":2}' },
    { digest, bytes: new Uint8Array([7, 8]).buffer },
    { text: '{"id":1,"status":422}\n{"message":"no"}' },
  )
  expect(await second).toEqual({ status: 200, text: '{"b":2}' })
  expect(await first).toEqual({ status: 422, text: '{"message":"no"}' })
  expect(told).toEqual([3])
  expect([...(await fetchBuffer({ digest, dtype: 'u1', shape: [2] }))]).toEqual([7, 8])
})

it('leaves what is open, and what comes for a while, to HTTP when the line breaks', async () => {
  const { askOverLine } = await import('./line')
  const asked = askOverLine('POST', '/api/graphs/g/looks', '{}')
  FakeWorker.made[0]!.tell({ closed: true })
  expect(await asked).toBeNull()
  expect(await askOverLine('POST', '/api/graphs/g/looks', '{}')).toBeNull()
  expect(FakeWorker.made).toHaveLength(1)
})

it('does without a line that does not open, or cannot be held', async () => {
  const { askOverLine } = await import('./line')
  const asked = askOverLine('POST', '/api/graphs/g/looks', '{}')
  FakeWorker.made[0]!.tell({ closed: true })
  expect(await asked).toBeNull()
  vi.resetModules()
  const again = (await import('./line')).askOverLine('POST', '/api/graphs/g/looks', '{}')
  FakeWorker.made[1]!.onerror()
  expect(await again).toBeNull()
})

it('asks by HTTP where there may be no workers', async () => {
  const refuse = vi.fn(() => {
    throw new Error('not allowed here')
  })
  vi.stubGlobal('Worker', refuse)
  const { askOverLine } = await import('./line')
  expect(await askOverLine('POST', '/api/graphs/g/looks', '{}')).toBeNull()
  expect(await askOverLine('POST', '/api/graphs/g/looks', '{}')).toBeNull()
  expect(refuse).toHaveBeenCalledOnce()
})

it('opens a new line at once for somebody else', async () => {
  const { askOverLine, closeLine } = await import('./line')
  const asked = askOverLine('POST', '/api/graphs/g/looks', '{}')
  const [first] = FakeWorker.made
  closeLine()
  expect(await asked).toBeNull()
  expect(first!.told.at(-1)).toEqual({ close: true })
  first!.tell({ closed: true })
  void askOverLine('POST', '/api/graphs/g/looks', '{}')
  expect(FakeWorker.made).toHaveLength(2)
})
