/** What the page asks for in any case is asked at once, beside the question who one is; what is refused is asked again later. */
import { api, type GraphState } from './client'
import { openLine } from './line'

const ASKED = ['projects', 'operators', 'settings'] as const
type Asked = (typeof ASKED)[number]
type Answer<What extends Asked> = Awaited<ReturnType<(typeof api)[What]>>

const asked = new Map<string, Promise<unknown>>()

/** Ask for all that stands on every page, and for the graph that the address names. A share link says first who one is. */
export function askAhead(hash: string): void {
  if (hash.includes('=')) return
  openLine()
  if (hash) asked.set(hash, api.graph(hash))
  for (const what of ASKED) asked.set(what, api[what]())
  for (const answer of asked.values()) answer.catch(() => null)
}

/** What was asked ahead, once; asked now where it was not, or was refused. */
async function taken<Given>(what: string, ask: () => Promise<Given>): Promise<Given> {
  const there = asked.get(what) as Promise<Given> | undefined
  asked.delete(what)
  return there ? there.catch(ask) : ask()
}

export const ahead = <What extends Asked>(what: What) => taken(what, () => api[what]() as Promise<Answer<What>>)

/** The graph of that name, null if there is none. */
export const graphAhead = (hash: string): Promise<GraphState | null> =>
  taken<GraphState | null>(hash, () => api.graph(hash).catch(() => null))
