/** Keeps the results in step with the document: one evaluation at a time, the newest always wins. */
import { createGlobalState, useLocalStorage } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, Refusal, type EvaluationState, type NodeReport } from '../api/client'
import type { LookAnswer, LookQuery } from '../api/results'
import { KeptFrames } from './keptFrames'
import { useGraph } from './useGraph'
import { useMoment } from './useMoment'
import { useProject } from './useProject'
import { splitFeed, type GraphDocument } from '../model/document'
import { essenceOf } from '../model/levels'

const PATIENCE = 0.35
const POLL = 0.5

export const useEvaluation = createGlobalState(() => {
  const graph = useGraph()
  const moment = useMoment()
  const project = useProject()
  const reports = shallowRef<Record<string, NodeReport>>({})
  /** The node that the looks show: the one looked at, or what feeds it if it failed. */
  const lastShown = shallowRef<{ graph: string | undefined; node: string | null }>({ graph: undefined, node: null })
  /** The node whose result is shown; none as long as it is one of another graph. */
  const shownNode = computed(() => (lastShown.value.graph === graph.state.value?.id ? lastShown.value.node : null))
  const queries = shallowRef<LookQuery[]>([])
  const looks = shallowRef<{
    graph: string
    node: string
    key: string
    queries: LookQuery[]
    answers: LookAnswer[]
  } | null>(null)
  /** Seconds that answering the looks took, by what they were. */
  const looking = shallowRef<Record<string, number>>({})
  /** Whether the looks are the last good ones, from before a text was broken. */
  const stale = ref(false)
  const running = ref(false)
  const slow = ref(false)
  const progress = ref({ done: 0, total: 0, node: '' })
  const failure = ref('')
  /** The nodes that may differ from frame to frame, and what values with keys are at the frame that is shown. */
  const timely = shallowRef<ReadonlySet<string>>(new Set())
  const keyed = shallowRef<NonNullable<EvaluationState['keyed']>>({ nodes: {}, dials: {} })
  /** The frame of what is shown. */
  const shownFrame = ref<number | null>(null)
  const kept = new KeptFrames()
  /** Grows with every frame that is kept. */
  const keptCount = ref(0)
  /** For heavy graphs: nothing is evaluated while a value is dragged. */
  const onRelease = useLocalStorage('reticula on release', false)
  const channel = crypto.randomUUID?.() ?? String(Math.random())

  let wanted = 0
  let busy = false
  let ticket = ''

  /** The node to show instead of one that has no result: the first feed that has one. */
  function fallback(document: GraphDocument, node: string | null): string | null {
    const seen = new Set<string>()
    while (node && !seen.has(node)) {
      seen.add(node)
      const from = splitFeed(node).from
      if (reports.value[from]?.state === 'done') return node
      node = Object.values(document.nodes[from]?.inputs ?? {}).flat()[0] ?? null
    }
    return null
  }

  /** What names the content of a node's output. */
  function keyOf(feed: string): string {
    const { from, output } = splitFeed(feed)
    const key = reports.value[from]?.key ?? ''
    return output ? `${key}:${output}` : key
  }

  async function round(): Promise<void> {
    const number = wanted
    const document = graph.document.value
    const id = graph.state.value?.id
    const at = place()
    const node = document.looking_at ?? null
    if (!id) return
    const asked = queries.value
    const wished = question()
    const frame = frameNow()
    const dragging = graph.draft.value.length > 0 || moment.moving.value
    const there = kept.get(wished, frame)
    if (there) await take(there.answer, document, node, asked, !there.whole, frame)
    if (there && (there.whole || dragging)) return
    let answer = await api.evaluate(id, {
      ...graph.basis(),
      node,
      queries: asked,
      channel,
      only_node: dragging && node !== null,
      wait: PATIENCE,
    })
    ticket = answer.ticket
    while (answer.state === 'waiting' || answer.state === 'running') {
      slow.value = true
      progress.value = answer.progress
      if (number !== wanted) return
      answer = await api.evaluation(ticket, POLL, (now) => (progress.value = now))
    }
    if (at !== place()) return
    if (answer.state === 'done' && answer.timely?.length) keep(wished, frame, answer, !dragging)
    await take(answer, document, node, asked, dragging, frame)
  }

  function keep(question: string, frame: number, answer: EvaluationState, whole: boolean): void {
    kept.put(question, frame, { answer, whole })
    keptCount.value += 1
  }

  /** What is asked, whatever the frame: of this graph, with these shapes. */
  function question(): string {
    const shapes = project.shapes.value.map((shape) => shape.id)
    return essence.value + JSON.stringify([queries.value, shapes])
  }

  /** The frame that is wanted. */
  function frameNow(): number {
    return moment.frame.value ?? graph.root.value.time?.first ?? 0
  }

  async function take(
    answer: EvaluationState,
    document: GraphDocument,
    node: string | null,
    asked: LookQuery[],
    dragging: boolean,
    frame: number,
  ): Promise<void> {
    if (answer.state === 'stopped') return
    if (answer.state === 'failed') {
      failure.value = answer.error?.message ?? 'The evaluation failed.'
      const at = answer.error?.node
      if (at && reports.value) reports.value = { ...reports.value, [at]: brokenReport(failure.value) }
      return
    }
    failure.value = ''
    if (reported !== place()) reports.value = {}
    reported = place()
    reports.value = dragging ? { ...reports.value, ...answer.nodes } : (answer.nodes ?? {})
    looking.value = answer.looking ?? {}
    timely.value = new Set(answer.timely ?? [])
    keyed.value = answer.keyed ?? { nodes: {}, dials: {} }
    shownFrame.value = frame
    const id = graph.state.value!.id
    let answers = answer.looks ?? []
    let shown = node
    if (node && answer.nodes?.[splitFeed(node).from]?.state !== 'done' && asked.length) {
      if (
        isMisspelt(answer.nodes?.[splitFeed(node).from]) &&
        looks.value?.node === node &&
        looks.value.graph === place()
      ) {
        stale.value = true
        return
      }
      shown = fallback(document, node)
      if (!shown) {
        lastShown.value = { graph: id, node: null }
        return
      }
      answers = (await api.looks(id, shown, asked, graph.basis())).looks
      if (graph.state.value?.id !== id) return
    }
    stale.value = false
    lastShown.value = { graph: id, node: shown }
    if (shown) looks.value = { graph: place(), node: shown, key: keyOf(shown), queries: asked, answers }
    else looks.value = null
  }

  /** Whether a node failed over a text or value that is being written: then its last good result stays in sight. */
  function isMisspelt(report: NodeReport | undefined): boolean {
    return report?.state === 'failed' && ['parameter', 'formula'].includes(report.error?.code ?? '')
  }

  function brokenReport(message: string): NodeReport {
    return {
      state: 'failed',
      key: '',
      seconds: 0,
      cached: false,
      skipped: false,
      notes: [],
      counts: null,
      change: null,
      error: { code: 'limit', message },
    } as unknown as NodeReport
  }

  async function work(): Promise<void> {
    if (busy) return
    busy = true
    let done = -1
    while (done !== wanted) {
      done = wanted
      running.value = true
      try {
        await round()
      } catch (error) {
        if (error instanceof Refusal && error.status === 409) done = wanted
        failure.value = error instanceof Error ? error.message : String(error)
      }
    }
    running.value = false
    slow.value = false
    busy = false
  }

  function request(): void {
    if (onRelease.value && graph.draft.value.length) return
    wanted += 1
    void work()
  }

  /** What an evaluation depends on; moving a card or renaming it is not among it. */
  const essence = computed(() =>
    JSON.stringify([place(), essenceOf(graph.root.value), graph.document.value.looking_at]),
  )

  /** Which graph is worked on: what is known of its nodes means nothing in another one. */
  function place(): string {
    return [graph.state.value?.id, ...graph.path.value].join('/')
  }
  let reported = ''

  return {
    reports,
    shownNode,
    looks,
    looking,
    timely,
    keyed,
    shownFrame,
    keptCount,
    stale,
    queries,
    running,
    slow,
    progress,
    failure,
    onRelease,
    request,
    channel,

    /** Begin to follow the document. */
    follow(): void {
      watch([essence, queries], request, { immediate: true })
      watch([moment.frame, moment.moving], () => timely.value.size && request())
    },

    /** The frames for which the answer to what is asked now is there. */
    readyFrames: (): ReadonlySet<number> => kept.frames(question()),
    /** Evaluate what is looked at, at a frame that may be wanted soon; whatever else is asked goes first. */
    async ahead(frame: number): Promise<void> {
      const id = graph.state.value?.id
      const node = graph.document.value.looking_at
      if (!id || !node) return
      const wanted = question()
      const asked = { ...graph.basis(), frame, node, queries: queries.value, only_node: true, ahead: true }
      let answer = await api.evaluate(id, { ...asked, channel: `${channel} ahead`, wait: POLL })
      while (answer.state === 'waiting' || answer.state === 'running') {
        if (wanted !== question()) return void api.stop(answer.ticket)
        answer = await api.evaluation(answer.ticket, POLL)
      }
      if (answer.state === 'done' && !kept.get(wanted, frame)) keep(wanted, frame, answer, false)
    },

    /** Stop what is being evaluated. */
    stop(): void {
      if (ticket) void api.stop(ticket)
      failure.value = 'Stopped. The last finished result is shown; any change evaluates again.'
    },
  }
})
