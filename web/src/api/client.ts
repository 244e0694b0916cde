/** Calls to the service. Answers are typed from its OpenAPI document; refusals become Refusal errors. */
import { askOverLine, type Progress } from './line'
import type { components } from './schema'

export type Schemas = components['schemas']
export type GraphState = Schemas['GraphState']
export type EvaluationState = Schemas['EvaluationState']
export type NodeReport = Schemas['NodeReport']
export type OperatorState = Schemas['OperatorState']
export type ParameterState = Schemas['ParameterState']
export type AttributeTypeState = Schemas['AttributeTypeState']
export type OperatorList = Schemas['OperatorList']
export type AssetState = Schemas['AssetState']
export type TextState = Schemas['TextState']
export type TextName = Schemas['TextName']
export type InputState = Schemas['InputState']
export type ReviewState = Schemas['ReviewState']
export type ErrorState = Schemas['ErrorState']

export type Change = Schemas['ChangeRequest']['change']
/** What a change of one kind takes. */
export type ChangeOf<What extends Change['what']> = Omit<Extract<Change, { what: What }>, 'what'>

export type Operation = { op: string; path: string; value?: unknown; from?: string }
/** A saved revision, the unsaved edits on top of it, the graph in it that is meant, by its path, and the frame. */
export type Basis = { revision: number; draft: Operation[]; level: string; frame: number | null }

/** The service answered, and said no. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly state: ErrorState,
  ) {
    super(state.message)
  }
}

/** The service did not answer at all. */
export class Unreachable extends Error {}

/** What may take time goes over the line of the page. */
const TAKES_TIME = /^\/api\/(graphs\/\w+\/(evaluations|looks|checks|texts|company)|evaluations\/\w+)/

async function ask<T>(method: string, path: string, body?: unknown, onProgress?: (now: Progress) => void): Promise<T> {
  const answer = await askOverLine(method, path, body === undefined ? '' : JSON.stringify(body), onProgress)
  if (!answer) return fetched<T>(method, path, body)
  const said = answer.text ? (JSON.parse(answer.text) as unknown) : undefined
  if (answer.status >= 400) throw refusal(answer.status, said as ErrorState, path)
  return said as T
}

function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  return TAKES_TIME.test(path) ? ask<T>(method, path, body) : fetched<T>(method, path, body)
}

let csrfToken = ''
let signedOut = () => {}

/** Send this token with whatever changes something. */
export function useCsrfToken(token: string): void {
  csrfToken = token
}

/** Be told when the service does not know one any more. */
export function onSignedOut(tell: () => void): void {
  signedOut = tell
}

/** A question that has waited for news may be answered after one has signed in again: it says nothing of that. */
const WAITS_FOR_NEWS = /\/company$/

function refusal(status: number, state: ErrorState, path: string): Refusal {
  if (status === 401 && state.code === 'sign in' && !WAITS_FOR_NEWS.test(path)) signedOut()
  return new Refusal(status, state)
}

/** What the service answers; throws what it refuses, and that it does not answer. */
async function answered(path: string, options: RequestInit): Promise<Response> {
  let answer: Response
  try {
    answer = await fetch(path, options)
  } catch (error) {
    if (options.signal?.aborted) throw error
    throw new Unreachable('The service does not answer.')
  }
  if (answer.ok) return answer
  const state: unknown = await answer
    .json()
    .catch(() => ({ code: 'http', message: `The request failed (${answer.status}).` }))
  throw refusal(answer.status, state as ErrorState, path)
}

function send(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<Response> {
  const form = body instanceof FormData
  return answered(path, {
    method,
    headers: {
      ...(body === undefined || form ? {} : { 'Content-Type': 'application/json' }),
      ...(csrfToken && method !== 'GET' ? { 'X-CSRF-Token': csrfToken } : {}),
    },
    body: body === undefined ? undefined : form ? body : JSON.stringify(body),
    signal,
  })
}

async function fetched<T>(method: string, path: string, body?: unknown): Promise<T> {
  const answer = await send(method, path, body)
  return answer.status === 204 ? (undefined as T) : ((await answer.json()) as T)
}

export const api = {
  session: () => call<Schemas['SessionState']>('GET', '/api/session'),
  signIn: (name: string, password: string) => call<Schemas['SessionState']>('POST', '/api/session', { name, password }),
  signInByLink: (link: string) => call<Schemas['SessionState']>('POST', '/api/session/link', { link }),
  signOut: () => call<void>('DELETE', '/api/session'),
  changePassword: (old: string, now: string) => call<void>('PUT', '/api/session/password', { old, new: now }),
  tokens: () => call<Schemas['TokenList']>('GET', '/api/tokens'),
  makeToken: (title: string) => call<Schemas['TokenState']>('POST', '/api/tokens', { title }),
  dropToken: (id: string) => call<void>('DELETE', `/api/tokens/${id}`),
  members: (project: string) => call<Schemas['MembersState']>('GET', `/api/projects/${project}/members`),
  setMember: (project: string, name: string, role: Schemas['MemberRequest']['role']) =>
    call<void>('PUT', `/api/projects/${project}/members/${encodeURIComponent(name)}`, { role }),
  dropMember: (project: string, name: string) =>
    call<void>('DELETE', `/api/projects/${project}/members/${encodeURIComponent(name)}`),
  makeLink: (project: string) => call<Schemas['LinkState']>('POST', `/api/projects/${project}/links`),
  dropLink: (project: string, id: string) => call<void>('DELETE', `/api/projects/${project}/links/${id}`),
  projects: () => call<Schemas['ProjectList']>('GET', '/api/projects'),
  makeProject: (title: string) => call<Schemas['ProjectState']>('POST', '/api/projects', { title }),
  graphs: (project: string) => call<Schemas['GraphList']>('GET', `/api/projects/${project}/graphs`),
  makeGraph: (project: string, title: string, document?: object) =>
    call<GraphState>('POST', `/api/projects/${project}/graphs`, document ? { title, document } : { title }),
  demos: () => call<Schemas['DemoList']>('GET', '/api/demos'),
  demo: (name: string) => call<Schemas['DemoState']>('GET', `/api/demos/${name}`),
  example: (operator: string) => call<Schemas['ExampleState']>('GET', `/api/operators/${operator}/example`),
  demoShape: async (shape: Schemas['DemoShape']): Promise<File> => {
    const answer = await fetch(`/api/demos/shapes/${shape.name}`)
    if (!answer.ok) throw new Error(`The shape ‘${shape.name}’ of the demo could not be fetched.`)
    return new File([await answer.blob()], shape.file_name)
  },
  demoSheet: async (name: string): Promise<File> =>
    new File([await (await answered(`/api/demos/${name}/sheet`, {})).blob()], `${name}.zip`),
  graph: (id: string) => call<GraphState>('GET', `/api/graphs/${id}`),
  dropGraph: (id: string) => call<void>('DELETE', `/api/graphs/${id}`),
  edit: (id: string, revision: number, patch: Operation[], label: string, key: string) =>
    call<GraphState>('POST', `/api/graphs/${id}/edits`, { revision, patch, label, key }),
  edits: (id: string) => call<Schemas['EditList']>('GET', `/api/graphs/${id}/edits`),
  /** Tell where this page is, and wait for news of others and of edits. */
  company: (id: string, request: Schemas['CompanyRequest']) =>
    call<Schemas['CompanyState']>('POST', `/api/graphs/${id}/company`, request),
  moment: (id: string, revision: number) =>
    call<Schemas['MomentState']>('GET', `/api/graphs/${id}/moments/${revision}`),
  nameMoment: (id: string, revision: number, name: string) =>
    call<void>('PUT', `/api/graphs/${id}/moments/${revision}`, { name }),
  compareMoments: (id: string, old: number, now: number) =>
    call<Schemas['MomentsCompared']>('GET', `/api/graphs/${id}/moments?old=${old}&new=${now}`),
  goBack: (id: string, revision: number, to: number, label: string, key: string) =>
    call<GraphState>('POST', `/api/graphs/${id}/back`, { revision, to, label, key }),
  checks: (id: string, channel: string, basis: Partial<Basis> = {}) =>
    call<Schemas['ChecksState']>('POST', `/api/graphs/${id}/checks`, { channel, ...basis }),
  undo: (id: string, revision: number, key: string) =>
    call<GraphState>('POST', `/api/graphs/${id}/undo`, { revision, key }),
  redo: (id: string, revision: number, key: string) =>
    call<GraphState>('POST', `/api/graphs/${id}/redo`, { revision, key }),
  evaluate: (id: string, request: Partial<Schemas['EvaluationRequest']>) =>
    call<EvaluationState>('POST', `/api/graphs/${id}/evaluations`, request),
  evaluation: (ticket: string, wait: number, onProgress?: (now: Progress) => void) =>
    ask<EvaluationState>('GET', `/api/evaluations/${ticket}?wait=${wait}`, undefined, onProgress),
  stop: (ticket: string) => call<void>('DELETE', `/api/evaluations/${ticket}`),
  frame: (text: string, names: Record<string, number>) =>
    call<Schemas['FrameState']>('POST', '/api/frame', { text, names }),
  channels: (id: string, request: Partial<Schemas['ChannelsRequest']>) =>
    call<Schemas['ChannelsState']>('POST', `/api/graphs/${id}/channels`, request),
  /** What a dial would get from a table that it follows. */
  followed: (id: string, request: Partial<Schemas['FollowedRequest']>) =>
    ask<Schemas['FollowedState']>('POST', `/api/graphs/${id}/followed`, request),
  /** The mesh of a node, as a file. */
  exported: async (
    id: string,
    {
      node,
      format,
      encoding,
      level,
      frame,
    }: Record<'node' | 'format' | 'encoding' | 'level', string> & { frame: number },
    signal: AbortSignal,
  ): Promise<Uint8Array> => {
    const asked = new URLSearchParams({ node, format, encoding, level, frame: String(frame) })
    const answer = await send('GET', `/api/graphs/${id}/export?${asked}`, undefined, signal)
    return new Uint8Array(await answer.arrayBuffer())
  },
  /** Pictures joined to a film. */
  joined: async (id: string, pictures: Blob, format: string, rate: number, signal: AbortSignal): Promise<Blob> => {
    const body = new FormData()
    body.set('pictures', pictures, 'pictures.zip')
    body.set('format', format)
    body.set('rate', String(rate))
    return (await send('POST', `/api/graphs/${id}/films`, body, signal)).blob()
  },
  looks: (id: string, node: string, queries: Schemas['LookRequest']['queries'], basis: Partial<Basis> = {}) =>
    call<Schemas['LookState']>('POST', `/api/graphs/${id}/looks`, { node, queries, ...basis }),
  text: (id: string, node: string, parameter: string, source: string, elements: number[], basis: Partial<Basis> = {}) =>
    call<TextState>('POST', `/api/graphs/${id}/texts`, { node, parameter, source, elements, ...basis }),
  rewrite: (id: string, node: string, parameter: string, to: 'text' | 'nodes', basis: Partial<Basis> = {}) =>
    call<Schemas['RewriteState']>('POST', `/api/graphs/${id}/rewrites`, { node, parameter, to, ...basis }),
  /** Work out a change that takes more than setting a value; it is saved by sending the patch as an edit. */
  change: (id: string, change: Change, basis: Partial<Basis> = {}) =>
    call<Schemas['ChangeState']>('POST', `/api/graphs/${id}/changes`, { change, ...basis }),
  publish: (id: string, request: Partial<Schemas['PublicationRequest']>) =>
    call<Schemas['PublicationState']>('POST', `/api/graphs/${id}/publications`, request),
  freeze: (id: string, node: string, name: string, basis: Partial<Basis> = {}) =>
    call<AssetState>('POST', `/api/graphs/${id}/freezes`, { node, name, ...basis }),
  definition: (operator: string) => call<object>('GET', `/api/library/${operator}/definition`),
  differences: (name: string, before: string, after: string) =>
    call<Schemas['DifferenceState']>('GET', `/api/library/${name}/differences?before=${before}&after=${after}`),
  reviewPackage: (file: File) => {
    const form = new FormData()
    form.append('file', file)
    return call<ReviewState>('POST', '/api/packages/reviews', form)
  },
  takePackage: (review: string, choices: Record<string, 'keep' | 'beside'>) =>
    call<Schemas['ImportState']>('POST', `/api/packages/reviews/${review}`, { choices }),
  depot: () => call<Schemas['DepotState']>('GET', '/api/depot'),
  sendToDepot: (operator: string) => call<void>('POST', `/api/depot/${operator}/publish`),
  fetchFromDepot: (operator: string) => call<ReviewState>('POST', `/api/depot/${operator}/fetch`),
  operators: () => call<OperatorList>('GET', '/api/operators'),
  assets: (project: string) => call<Schemas['AssetList']>('GET', `/api/projects/${project}/assets`),
  upload: (project: string, file: File) => {
    const form = new FormData()
    form.append('file', file)
    return call<AssetState>('POST', `/api/projects/${project}/assets`, form)
  },
  dropAsset: (id: string) => call<void>('DELETE', `/api/assets/${id}`),
  sheets: (project: string) => call<Schemas['SheetList']>('GET', `/api/projects/${project}/sheets`),
  checkPlan: (graph: string, request: Partial<Schemas['NewSheet']>) =>
    call<Schemas['PlanCheck']>('POST', `/api/graphs/${graph}/plans`, request),
  makeSheet: (graph: string, request: Partial<Schemas['NewSheet']>) =>
    call<Schemas['SheetState']>('POST', `/api/graphs/${graph}/sheets`, request),
  /** Bring a proof sheet that was saved as a file to a graph. */
  bringSheet: (graph: string, file: File) => {
    const form = new FormData()
    form.append('file', file)
    return call<Schemas['SheetState']>('POST', `/api/graphs/${graph}/sheets/file`, form)
  },
  renameSheet: (id: string, title: string) => call<Schemas['SheetState']>('PUT', `/api/sheets/${id}`, { title }),
  dropSheet: (id: string) => call<void>('DELETE', `/api/sheets/${id}`),
  runSheet: (id: string, failed: boolean) => call<Schemas['SheetState']>('POST', `/api/sheets/${id}/run`, { failed }),
  stopSheet: (id: string) => call<Schemas['SheetState']>('POST', `/api/sheets/${id}/stop`),
  extendSheet: (id: string, plan: Schemas['PlanBody']) =>
    call<Schemas['SheetState']>('POST', `/api/sheets/${id}/extend`, plan),
  variants: (id: string, since: number) =>
    call<Schemas['VariantList']>('GET', `/api/sheets/${id}/variants?since=${since}`),
  matches: (id: string, where: string) => call<Schemas['MatchList']>('POST', `/api/sheets/${id}/matches`, { where }),
  /** What draws a variant. */
  drawn: async (id: string, number: number): Promise<ArrayBuffer> =>
    (await answered(`/api/sheets/${id}/variants/${number}/drawn`, {})).arrayBuffer(),
  settings: () => call<Schemas['Settings']>('GET', '/api/settings'),
  saveSettings: (values: object) => call<Schemas['Settings']>('PUT', '/api/settings', values),
}
