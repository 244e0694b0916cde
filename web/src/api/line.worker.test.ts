import { expect, it, vi } from 'vitest'

class FakeSocket {
  static OPEN = 1
  static made: FakeSocket[] = []
  readyState = 0
  sent: string[] = []
  binaryType = ''
  onopen = () => {}
  onclose = () => {}
  onmessage: (event: { data: unknown }) => void = () => {}
  constructor(readonly address: string) {
    FakeSocket.made.push(this)
  }
  send(text: string) {
    this.sent.push(text)
  }
  close() {
    this.onclose()
  }
}

/** A worker that was told to open its line, seen from inside. */
async function begun() {
  const page = { postMessage: vi.fn(), close: vi.fn(), onmessage: vi.fn<(event: { data: unknown }) => void>() }
  vi.resetModules()
  vi.stubGlobal('WebSocket', FakeSocket)
  vi.stubGlobal('self', page)
  await import('./line.worker')
  page.onmessage({ data: { open: 'ws://here/api/live' } })
  return { page, socket: FakeSocket.made.at(-1) }
}

it('gives a line up that does not open, not one that does', async () => {
  vi.useFakeTimers()
  const { page } = await begun()
  const other = await begun()
  other.socket!.onopen()
  vi.advanceTimersByTime(2000)
  expect(page.postMessage.mock.calls).toEqual([[{ closed: true }]])
  expect(other.page.postMessage).not.toHaveBeenCalled()
  vi.useRealTimers()
})

it('holds one socket: texts and arrays go on to the page, arrays without their names', async () => {
  const { page, socket } = await begun()
  expect(socket).toMatchObject({ address: 'ws://here/api/live', binaryType: 'arraybuffer' })
  page.onmessage({ data: { send: 'an early question' } })
  expect(socket!.sent).toEqual([])
  socket!.readyState = 1
  socket!.onopen()
  page.onmessage({ data: { send: 'a question' } })
  expect(socket!.sent).toEqual(['an early question', 'a question'])
  socket!.onmessage({ data: 'an answer' })
  const digest = '0123456789abcdef0123456789abcdef'
  const bytes = new Uint8Array([...new TextEncoder().encode(digest), 7, 8]).buffer
  socket!.onmessage({ data: bytes })
  page.onmessage({ data: { close: true } })
  const cut = new Uint8Array([7, 8]).buffer
  expect(page.postMessage.mock.calls).toEqual([
    [{ text: 'an answer' }],
    [{ digest, bytes: cut }, [cut]],
    [{ closed: true }],
  ])
  expect(page.close).toHaveBeenCalledOnce()
})
