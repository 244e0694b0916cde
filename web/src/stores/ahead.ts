/** What the page asks for in any case is asked at once, beside the question who one is; what is refused is asked again later. */
import { api, type GraphState, type Schemas } from '../api/client'
import { openLine } from '../api/line'

interface Ahead {
  hash: string
  projects: Promise<Schemas['ProjectList'] | null>
  graph: Promise<GraphState | null>
}

let asked: Ahead | null = null

/** Ask for the projects and for the graph that the address names. A share link says first who one is. */
export function askAhead(hash: string): void {
  if (hash.includes('=')) return
  openLine()
  const graph = hash ? api.graph(hash).catch(() => null) : Promise.resolve(null)
  asked = { hash, projects: api.projects().catch(() => null), graph }
}

/** What was asked ahead, once; asked now where it was not, or was refused. */
export async function projectsAhead(): Promise<Schemas['ProjectList']> {
  return (await asked?.projects) ?? api.projects()
}

/** The graph of that name, null if there is none. */
export async function graphAhead(hash: string): Promise<GraphState | null> {
  const there = asked?.hash === hash ? await asked.graph : null
  asked = null
  return there ?? api.graph(hash).catch(() => null)
}
