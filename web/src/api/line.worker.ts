/**
 * The socket of the line, on a thread of its own: arrays come in while the page is busy, and what they are called is cut
 * off here. A worker holds one socket, and ends with it.
 */

/** What the page says: where to open the line, a text to send over it, or that it is to be closed. */
export type ToLine = { open: string } | { send: string } | { close: true }
/** What the page is told: a text that came, an array by its digest, or that the line is closed. */
export type FromLine = { closed: true } | { text: string } | { digest: string; bytes: ArrayBuffer }

const DIGEST_LETTERS = 32
/** A line that is not open by then is given up; it is counted here, where nothing else is done. */
const OPENS_WITHIN_MS = 2000
const page = self as unknown as {
  postMessage: (told: FromLine, given?: Transferable[]) => void
  onmessage: (event: { data: ToLine }) => void
  close: () => void
}
let socket: WebSocket | null = null
/** What was said before the line was open. */
const early: string[] = []

page.onmessage = ({ data }) => {
  if ('open' in data) connect(data.open)
  else if ('close' in data) socket?.close()
  else if (socket?.readyState === WebSocket.OPEN) socket.send(data.send)
  else early.push(data.send)
}

function connect(address: string): void {
  socket = new WebSocket(address)
  socket.binaryType = 'arraybuffer'
  const late = setTimeout(() => socket?.close(), OPENS_WITHIN_MS)
  socket.onopen = () => {
    clearTimeout(late)
    for (const text of early.splice(0)) socket!.send(text)
  }
  socket.onclose = () => {
    page.postMessage({ closed: true })
    page.close()
  }
  socket.onmessage = ({ data }: MessageEvent<string | ArrayBuffer>) => {
    if (typeof data === 'string') return page.postMessage({ text: data })
    const bytes = data.slice(DIGEST_LETTERS)
    page.postMessage({ digest: new TextDecoder().decode(data.slice(0, DIGEST_LETTERS)), bytes }, [bytes])
  }
}
