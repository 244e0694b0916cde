/** The open graph: what is drawn, what is saved, and the way from one to the other. */
import { createGlobalState } from '@vueuse/core'
import { applyPatch, compare, deepClone, type Operation as JsonOperation } from 'fast-json-patch'
import { computed, ref, shallowRef } from 'vue'
import { api, Refusal, Unreachable, type Basis, type GraphState, type Operation } from '../api/client'
import type { GraphDocument } from '../model/document'
import { levelOf, nodeOf } from '../model/levels'
import { attached, detached } from '../model/linked'
import { ownEdits } from '../model/ownEdits'
import { useMoment } from './useMoment'

export type SaveState = 'saved' | 'saving' | 'waiting for the service' | 'not saved'

/** The name of this page among those that are at a graph. */
export const PAGE = Math.random().toString(36).slice(2)
/** A name that no other edit has; others see by it whose edit it is. */
const newKey = () => `${PAGE}-${Date.now().toString(36)}-${Math.random().toString(36).slice(2)}`

/** What is on its way to the service: an edit, or a step back or forth in what was edited, which has no patch. */
interface Pending {
  step?: 'undo' | 'redo'
  patch: Operation[]
  /** A name of its own: when an answer was lost, the edit is sent again and not applied again. */
  key: string
  label: string
}

const RETRY_MS = 2000
/** Signed out, too much at once, service or database away, disk full: edits wait until that is over. */
const WAITS = [401, 429, 500, 502, 503, 504, 507]

export const useGraph = createGlobalState(() => {
  const moment = useMoment()
  const state = shallowRef<GraphState | null>(null)
  /** The whole document as drawn: the saved one with pending edits and the draft of a drag on top. */
  const root = shallowRef<GraphDocument>({ format: 'reticula graph', version: 1, nodes: {}, dials: {} })
  /** The way into the graph that is worked on: nodes of the graph, of the graph in that one, and so on. */
  const path = shallowRef<string[]>([])
  /** The graph at the end of the path. */
  const document = shallowRef<GraphDocument>(root.value)
  /** Graphs of published operators that were looked into; they cannot be changed. */
  const definitions: Record<string, GraphDocument> = {}
  /** What is looked at inside of a published operator, by path: it has no place in the document. */
  const lookedAt = shallowRef<Record<string, string>>({})
  const fixed = ref(false)
  /** Whether the project is one that one may look at only. */
  const lookOnly = ref(false)
  /** An earlier moment that is looked at instead of now; nothing can be changed there. */
  const past = shallowRef<{ revision: number; document: GraphDocument } | null>(null)
  const draft = shallowRef<Operation[]>([])
  const saveState = ref<SaveState>('saved')
  const trouble = ref('')
  let pending: Pending[] = []
  /** The document as it will be kept, with all that is on its way, without the draft. */
  let plain: GraphDocument = root.value
  const own = ownEdits()
  let announced = false
  let sending = false

  function rebuild(): void {
    if (!state.value) return
    if (past.value) {
      root.value = attached(deepClone(past.value.document) as GraphDocument)
      return settle()
    }
    plain = deepClone(state.value.document) as GraphDocument
    for (const edit of pending) plain = patched(plain, edit.patch) ?? plain
    root.value = attached((draft.value.length && patched(plain, draft.value)) || plain)
    settle()
  }

  /** Find the graph that is worked on again; a path that leads nowhere any more is cut short. */
  function settle(): void {
    const found = levelOf(root.value, path.value, definitions)
    if (found.depth < path.value.length) path.value = path.value.slice(0, found.depth)
    fixed.value = found.fixed || lookOnly.value || past.value !== null
    const first = found.graph.outputs?.[0]?.feed
    const saved = found.fixed ? first : (found.graph.looking_at ?? (path.value.length ? first : null))
    const at = fixed.value ? (lookedAt.value[path.value.join('/')] ?? saved) : saved
    document.value = at === found.graph.looking_at ? found.graph : { ...found.graph, looking_at: at ?? null }
  }

  /** What has a name in a graph, by its path: an edit that makes something of that name does not fit. */
  function named(graph: GraphDocument): Record<string, unknown> {
    return Object.fromEntries<unknown>([
      ...Object.entries(graph.nodes).map(([name, node]) => [`/nodes/${name}`, node] as const),
      ...Object.entries(graph.dials ?? {}).map(([name, dial]) => [`/dials/${name}`, dial] as const),
    ])
  }

  async function define(operator: string): Promise<GraphDocument> {
    return (definitions[operator] ??= ((await api.definition(operator)) as { graph: GraphDocument }).graph)
  }

  /** Put on its way what was done just now. */
  function post(patch: Operation[], label: string, step?: 'undo' | 'redo'): void {
    const made = { step, patch, label, key: newKey() }
    own.made(made)
    pending.push(made)
    saveState.value = 'saving'
  }

  /** An edit of this page was kept, as this revision. */
  function kept(key: string, revision: number): void {
    own.kept(key, revision)
    pending = pending.filter((one) => one.key !== key)
  }

  function patched(base: GraphDocument, patch: Operation[]): GraphDocument | null {
    try {
      return applyPatch(base, deepClone(patch) as JsonOperation[], false, false).newDocument
    } catch {
      return null
    }
  }

  function difference(change: (next: GraphDocument) => void, at: string[]): Operation[] {
    const next = attached(deepClone(plain) as GraphDocument)
    const level = levelOf(next, at)
    if (level.depth < at.length || lookOnly.value || past.value) {
      settleFixed(change)
      return []
    }
    if (at.length && at === path.value && !level.graph.looking_at && document.value.looking_at)
      level.graph.looking_at = document.value.looking_at
    const seen = JSON.stringify(next)
    change(level.graph)
    return seen === JSON.stringify(next) ? [] : (compare(plain, detached(next)) as Operation[])
  }

  /** Why nothing can be changed where one is. */
  const whyFixed = () =>
    past.value
      ? 'You look at an earlier moment. Return to now, or go back to it, to change something.'
      : lookOnly.value
        ? 'You may look at this project, not change it. Ask who manages it.'
        : 'A published operator never changes. Unfold it, on the board around it, to work on a copy.'

  /** Inside of a published operator, and where one may only look, nothing can be changed but what is looked at. */
  function settleFixed(change: (next: GraphDocument) => void): void {
    const copy = deepClone(document.value) as GraphDocument
    const before = JSON.stringify({ ...copy, looking_at: null })
    change(copy)
    if (JSON.stringify({ ...copy, looking_at: null }) !== before) {
      trouble.value = whyFixed()
      return
    }
    lookedAt.value = { ...lookedAt.value, [path.value.join('/')]: copy.looking_at ?? '' }
    settle()
  }

  async function send(): Promise<void> {
    if (sending || !state.value) return
    sending = true
    while (pending.length) {
      saveState.value = 'saving'
      const next = pending[0]!
      const { id, revision }: GraphState = state.value
      try {
        const answer: GraphState = next.step
          ? await api[next.step](id, revision, next.key)
          : await api.edit(id, revision, next.patch, next.label, next.key)
        if (state.value.id !== id) break
        // What others did after it may be known already.
        if (answer.revision >= state.value.revision) state.value = answer
        kept(next.key, answer.revision)
        trouble.value = ''
      } catch (error) {
        if (error instanceof Refusal && error.status === 409 && error.state.graph) {
          state.value = error.state.graph
          trouble.value = 'The graph was changed in another window; your edit was put on top.'
          const there = state.value.document as unknown as GraphDocument
          const takes = next.patch.some(({ op, path }) => op === 'add' && path in named(there))
          if (next.step || takes || !patched(deepClone(there) as GraphDocument, next.patch)) {
            pending = pending.filter((one) => one !== next)
            const lost = next.step
              ? `nothing was ${next.step === 'undo' ? 'undone' : 'done again'}`
              : `'${next.label}' could not be kept`
            trouble.value = `The graph was changed in another window, so ${lost}.`
          }
        } else if (error instanceof Unreachable || (error instanceof Refusal && WAITS.includes(error.status))) {
          saveState.value = 'waiting for the service'
          if (error instanceof Refusal) trouble.value = error.message
          await new Promise((wake) => setTimeout(wake, RETRY_MS))
        } else {
          pending = pending.filter((one) => one !== next)
          saveState.value = 'not saved'
          trouble.value = error instanceof Error ? error.message : String(error)
        }
      }
      rebuild()
    }
    if (!pending.length && saveState.value !== 'not saved') saveState.value = announced ? 'saving' : 'saved'
    sending = false
  }

  /** What undo would take back of what is still on its way. */
  function lastOnItsWay(): string | undefined {
    const last = pending.at(-1)
    return last?.step ? undefined : last?.label
  }

  /** A step back or forth, after all that is still on its way. */
  function walk(step: 'undo' | 'redo'): void {
    if (!state.value || lookOnly.value) return
    draft.value = []
    past.value = null
    post([], step, step)
    rebuild()
    void send()
  }

  return {
    state,
    root,
    path,
    document,
    fixed,
    lookOnly,
    past,
    whyFixed,
    draft,
    saveState,
    trouble,
    undoLabel: computed(() => (root.value && lastOnItsWay()) ?? state.value?.undo ?? null),
    redoLabel: computed(() => state.value?.redo ?? null),

    /** Open a graph, as it was read just now or as it is. */
    async open(id: string, known?: GraphState): Promise<void> {
      path.value = []
      lookedAt.value = {}
      past.value = null
      moment.reset()
      pending = []
      draft.value = []
      announced = false
      state.value = known ?? (await api.graph(id))
      saveState.value = 'saved'
      trouble.value = ''
      rebuild()
    },

    /** Change the graph that is worked on (or the one around it, `out` further out) and save it; undo will call it `label`. */
    edit(label: string, change: (next: GraphDocument) => void, out = 0): void {
      const patch = difference(change, out ? path.value.slice(0, -out) : path.value)
      draft.value = []
      if (patch.length) post(patch, label)
      rebuild()
      void send()
    },

    /** Something is written that will be saved after a pause; until then it does not say that all is saved. */
    announce(): void {
      announced = true
      if (saveState.value === 'saved') saveState.value = 'saving'
    },

    /** What was announced is saved now, or came to nothing. */
    withdraw(): void {
      announced = false
      if (!pending.length && saveState.value === 'saving') saveState.value = 'saved'
    },

    /** Save a change that the service worked out on the whole document. */
    apply(label: string, patch: Operation[]): void {
      draft.value = []
      if (lookOnly.value || past.value) trouble.value = whyFixed()
      else if (patch.length) post(patch, label)
      rebuild()
      void send()
    },

    /** Go into the graph of a node (and, in a loop, into one round), and out again to a depth. */
    async enter(node: string, round?: number): Promise<void> {
      const entry = document.value.nodes[node]
      if (!entry) return
      if (!entry.graph && entry.operator.includes('@')) await define(entry.operator)
      draft.value = []
      path.value = [...path.value, round === undefined ? node : `${node}@${round}`]
      rebuild()
    },
    /** The graphs of all published operators that are used, and of those that these use. */
    async publishedGraphs(): Promise<Record<string, GraphDocument>> {
      const found: Record<string, GraphDocument> = {}
      const open = [root.value]
      for (let graph = open.pop(); graph; graph = open.pop()) {
        for (const node of Object.values(graph.nodes)) {
          if (node.graph) open.push(node.graph)
          else if (node.operator.includes('@') && !(node.operator in found))
            open.push((found[node.operator] = await define(node.operator)))
        }
      }
      return found
    },
    leave(depth: number): void {
      draft.value = []
      path.value = path.value.slice(0, depth)
      rebuild()
    },
    /** The graph around the one that is worked on, and the node in it that holds that; null for the outermost. */
    around(): { graph: GraphDocument; node: string } | null {
      const last = path.value.at(-1)
      return last === undefined
        ? null
        : { graph: levelOf(root.value, path.value.slice(0, -1), definitions).graph, node: nodeOf(last) }
    },
    /** Look at another round of the loop that one is in; none: the last one. */
    goRound(round: number | null): void {
      const last = path.value.at(-1)
      if (last === undefined) return
      path.value = [...path.value.slice(0, -1), round === null ? nodeOf(last) : `${nodeOf(last)}@${round}`]
      rebuild()
    },

    /** Show a change without saving it, while something is dragged or typed. */
    preview(change: (next: GraphDocument) => void, out = 0): void {
      draft.value = difference(change, out ? path.value.slice(0, -out) : path.value)
      rebuild()
    },

    /** Forget what was only shown. */
    dropPreview(): void {
      if (!draft.value.length) return
      draft.value = []
      rebuild()
    },

    /** The graph as others left it, with the edits that led there; those of this page among them are kept, too. */
    receive(newer: GraphState, edits: readonly { key: string; revision: number }[]): void {
      if (state.value?.id !== newer.id || newer.revision <= state.value.revision) return
      state.value = newer
      for (const { key, revision } of edits) kept(key, revision)
      rebuild()
    },
    /** What this page did in the last minute. */
    ownEdits: own.all,

    /** Look at the graph as it was at a revision; null: as it is now. */
    lookBack(to: { revision: number; document: object } | null): void {
      draft.value = []
      trouble.value = ''
      lookedAt.value = {}
      past.value = to as typeof past.value
      rebuild()
    },
    /** Make the graph what it was at a revision, by an edit. */
    async goBack(revision: number, label: string): Promise<void> {
      if (!state.value) return
      if (pending.length) throw new Error('Not all is saved yet; go back when it is.')
      const { id } = state.value
      const answer = await api.goBack(id, state.value.revision, revision, label, newKey())
      if (state.value.id !== id) return
      state.value = answer
      this.lookBack(null)
    },

    undo: () => walk('undo'),
    redo: () => walk('redo'),

    /** All that the service does not have yet: pending edits and the draft. */
    unsaved: (): Operation[] => [...pending.flatMap((edit) => edit.patch), ...draft.value],
    /** What an evaluation or a look is based on: the saved revision, and what goes on top of it. */
    basis(): Basis {
      if (past.value)
        return { revision: past.value.revision, draft: [], level: path.value.join('/'), frame: moment.frame.value }
      return {
        revision: state.value?.revision ?? 0,
        draft: this.unsaved(),
        level: path.value.join('/'),
        frame: moment.frame.value,
      }
    },
    hasUnsaved: (): boolean => pending.length > 0,
  }
})
