import { expect, it, vi } from 'vitest'

it('holds one socket: texts and arrays go on to the page, arrays without their names', async () => {
  const made: FakeSocket[] = []
  class FakeSocket {
    static OPEN = 1
    readyState = 0
    sent: string[] = []
    binaryType = ''
    onopen = () => {}
    onclose = () => {}
    onmessage: (event: { data: unknown }) => void = () => {}
    constructor(readonly address: string) {
      made.push(this)
    }
    send(text: string) {
      this.sent.push(text)
    }
    close() {
      this.onclose()
    }
  }
  const page = { postMessage: vi.fn(), close: vi.fn(), onmessage: vi.fn<(event: { data: unknown }) => void>() }
  vi.stubGlobal('WebSocket', FakeSocket)
  vi.stubGlobal('self', page)
  await import('./line.worker')
  page.onmessage({ data: { open: 'ws://here/api/live' } })
  const [socket] = made
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
    [{ now: 'open' }],
    [{ text: 'an answer' }],
    [{ digest, bytes: cut }, [cut]],
    [{ now: 'closed' }],
  ])
  expect(page.close).toHaveBeenCalledOnce()
})
