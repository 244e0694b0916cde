/**
 * The line to the service: one WebSocket per page, over which questions that take time go out, and their progress, answers and
 * arrays come in. Where it cannot be had (a proxy without WebSockets, a service that is starting again), questions go by HTTP.
 */
import { keepArray } from './buffers'

export interface Progress {
  done: number
  total: number
  node: string
  ticket: string
}

export interface Answer {
  status: number
  text: string
}

interface Question {
  answer: (answer: Answer | null) => void
  onProgress?: (progress: Progress) => void
}

const OPENS_WITHIN_MS = 2000
const PAUSE_MS = 3000
const DIGEST_LETTERS = 32

let socket: WebSocket | null = null
let opening: Promise<WebSocket | null> | null = null
let closedAt = -PAUSE_MS
let newest = 0
const open = new Map<number, Question>()

/** Open the line before there is a question: the first one does not wait for it. */
export function openLine(): void {
  void opened()
}

/** Ask over the line; null if there is none now, and the question is to be asked by HTTP. */
export async function askOverLine(
  method: string,
  path: string,
  body: string,
  onProgress?: (progress: Progress) => void,
): Promise<Answer | null> {
  const line = await opened()
  if (!line) return null
  const id = ++newest
  return new Promise((answer) => {
    open.set(id, { answer, onProgress })
    line.send(`${JSON.stringify({ id, method, path })}\n${body}`)
  })
}

async function opened(): Promise<WebSocket | null> {
  if (typeof WebSocket === 'undefined') return null
  if (socket?.readyState === WebSocket.OPEN) return socket
  if (performance.now() - closedAt < PAUSE_MS) return null
  opening ??= connect().finally(() => (opening = null))
  return opening
}

function connect(): Promise<WebSocket | null> {
  const made = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/live`)
  made.binaryType = 'arraybuffer'
  return new Promise((ready) => {
    const late = setTimeout(() => made.close(), OPENS_WITHIN_MS)
    made.onopen = () => {
      clearTimeout(late)
      socket = made
      ready(made)
    }
    made.onclose = () => {
      clearTimeout(late)
      closedAt = performance.now()
      if (socket === made) giveUp()
      ready(null)
    }
    made.onmessage = (event: MessageEvent<string | ArrayBuffer>) => take(event.data)
  })
}

/** The line broke: what was asked is asked again by HTTP. Every question may be asked twice. */
function giveUp(): void {
  socket = null
  for (const question of open.values()) question.answer(null)
  open.clear()
}

/** Somebody else has signed in: the line knows only who opened it. */
export function closeLine(): void {
  const old = socket
  giveUp()
  old?.close()
}

function take(data: string | ArrayBuffer): void {
  if (typeof data !== 'string') {
    keepArray(new TextDecoder().decode(data.slice(0, DIGEST_LETTERS)), data.slice(DIGEST_LETTERS))
    return
  }
  const end = data.indexOf('\n')
  const head = JSON.parse(data.slice(0, end)) as { id: number; status?: number; progress?: Progress }
  const question = open.get(head.id)
  if (head.progress) question?.onProgress?.(head.progress)
  if (head.status === undefined) return
  open.delete(head.id)
  question?.answer({ status: head.status, text: data.slice(end + 1) })
}
