import { beforeEach, expect, it, vi } from 'vitest'

/** A socket that a test opens, answers and closes. */
class FakeSocket {
  static OPEN = 1
  static made: FakeSocket[] = []
  readyState = 0
  sent: string[] = []
  onopen = () => {}
  onclose = () => {}
  onmessage: (event: { data: unknown }) => void = () => {}
  constructor(readonly url: string) {
    FakeSocket.made.push(this)
  }
  send(text: string) {
    this.sent.push(text)
  }
  open() {
    this.readyState = 1
    this.onopen()
  }
  close() {
    this.readyState = 3
    this.onclose()
  }
}

const bytes = (digest: string, ...values: number[]) => {
  const made = new Uint8Array(32 + values.length)
  made.set(new TextEncoder().encode(digest))
  made.set(values, 32)
  return made.buffer
}

beforeEach(() => {
  vi.resetModules()
  FakeSocket.made = []
  vi.stubGlobal('WebSocket', FakeSocket)
  vi.stubGlobal('location', { protocol: 'http:', host: 'localhost' })
})

it('asks over one socket, and gets progress, arrays and answers in any order', async () => {
  const { askOverLine } = await import('./line')
  const { fetchBuffer } = await import('./buffers')
  const told: unknown[] = []
  const first = askOverLine('POST', '/api/graphs/g/looks', '{"a":1}', (now) => told.push(now.done))
  const second = askOverLine('GET', '/api/evaluations/t?wait=1', '')
  expect(FakeSocket.made).toHaveLength(1)
  const socket = FakeSocket.made[0]!
  socket.open()
  await vi.waitFor(() => expect(socket.sent).toHaveLength(2))
  expect(socket.sent[0]).toBe('{"id":1,"method":"POST","path":"/api/graphs/g/looks"}\n{"a":1}')
  const digest = '0123456789abcdef0123456789abcdef'
  socket.onmessage({ data: '{"id":1,"progress":{"done":3}}\n' })
  socket.onmessage({ data: '{"id":2,"status":200}\n{"b":2}' })
  socket.onmessage({ data: bytes(digest, 7, 8) })
  socket.onmessage({ data: '{"id":1,"status":422}\n{"message":"no"}' })
  expect(await second).toEqual({ status: 200, text: '{"b":2}' })
  expect(await first).toEqual({ status: 422, text: '{"message":"no"}' })
  expect(told).toEqual([3])
  expect([...(await fetchBuffer({ digest, dtype: 'u1', shape: [2] }))]).toEqual([7, 8])
})

it('leaves what is open, and what comes for a while, to HTTP when the line breaks', async () => {
  const { askOverLine } = await import('./line')
  const asked = askOverLine('POST', '/api/graphs/g/looks', '{}')
  FakeSocket.made[0]!.open()
  await vi.waitFor(() => expect(FakeSocket.made[0]!.sent).toHaveLength(1))
  FakeSocket.made[0]!.close()
  expect(await asked).toBeNull()
  expect(await askOverLine('POST', '/api/graphs/g/looks', '{}')).toBeNull()
  expect(FakeSocket.made).toHaveLength(1)
})

it('does without a line that does not open', async () => {
  const { askOverLine } = await import('./line')
  const asked = askOverLine('POST', '/api/graphs/g/looks', '{}')
  FakeSocket.made[0]!.close()
  expect(await asked).toBeNull()
})
