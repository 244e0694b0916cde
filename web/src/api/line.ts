/**
 * The line to the service: one WebSocket per page, over which questions that take time go out, and their progress, answers and
 * arrays come in. Where it cannot be had (a proxy without WebSockets, a service that is starting again), questions go by HTTP.
 */
import { keepArray } from './buffers'
import type { FromLine, ToLine } from './line.worker'
import LineWorker from './line.worker?worker&inline'

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

const PAUSE_MS = 3000

/** The worker that holds the line, from when it is to be opened until it is closed. */
let line: Worker | null = null
let closedAt = -PAUSE_MS
let newest = 0
const open = new Map<number, Question>()

/** Open the line before there is a question: the first one does not wait for it. */
export function openLine(): void {
  opened()
}

/** Ask over the line; null if there is none now, or it breaks, and the question is to be asked by HTTP. */
export function askOverLine(
  method: string,
  path: string,
  body: string,
  onProgress?: (progress: Progress) => void,
): Promise<Answer | null> {
  const over = opened()
  if (!over) return Promise.resolve(null)
  const id = ++newest
  return new Promise((answer) => {
    open.set(id, { answer, onProgress })
    say(over, { send: `${JSON.stringify({ id, method, path })}\n${body}` })
  })
}

const say = (over: Worker, what: ToLine) => over.postMessage(what)

function opened(): Worker | null {
  if (typeof Worker === 'undefined') return null
  if (line) return line
  if (performance.now() - closedAt < PAUSE_MS) return null
  try {
    return connect()
  } catch {
    closedAt = performance.now() // a page that may have no workers
    return null
  }
}

/** A question may be said at once: what holds the line keeps it until it is open, which this busy page may hear late. */
function connect(): Worker {
  const made = new LineWorker()
  line = made
  say(made, { open: `${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/live` })
  const closed = () => {
    if (line !== made) return
    closedAt = performance.now()
    giveUp()
  }
  made.onerror = closed
  made.onmessage = ({ data }: MessageEvent<FromLine>) => {
    if ('text' in data) take(data.text)
    else if ('digest' in data) keepArray(data.digest, data.bytes)
    else closed()
  }
  return made
}

/** The line broke: what was asked is asked again by HTTP. Every question may be asked twice. */
function giveUp(): void {
  line = null
  for (const question of open.values()) question.answer(null)
  open.clear()
}

/** Somebody else has signed in: the line knows only who opened it. */
export function closeLine(): void {
  const old = line
  giveUp()
  if (old) say(old, { close: true })
}

function take(data: string): void {
  const end = data.indexOf('\n')
  const head = JSON.parse(data.slice(0, end)) as { id: number; status?: number; progress?: Progress }
  const question = open.get(head.id)
  if (head.progress) question?.onProgress?.(head.progress)
  if (head.status === undefined) return
  open.delete(head.id)
  question?.answer({ status: head.status, text: data.slice(end + 1) })
}
