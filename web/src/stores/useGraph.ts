/** The open graph: what is drawn, what is saved, and the way from one to the other. */
import { createGlobalState } from '@vueuse/core'
import { applyPatch, compare, deepClone, type Operation as JsonOperation } from 'fast-json-patch'
import { computed, ref, shallowRef } from 'vue'
import { api, Refusal, Unreachable, type Basis, type GraphState, type Operation } from '../api/client'
import type { GraphDocument } from '../model/document'
import { levelOf, nodeOf } from '../model/levels'
import { useMoment } from './useMoment'

export type SaveState = 'saved' | 'saving' | 'waiting for the service' | 'not saved'

/** A name that no other edit has. */
const newKey = () => `${Date.now().toString(36)}-${Math.random().toString(36).slice(2)}`

interface Pending {
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
  const draft = shallowRef<Operation[]>([])
  const saveState = ref<SaveState>('saved')
  const trouble = ref('')
  let pending: Pending[] = []
  let announced = false
  let sending = false

  function rebuild(): void {
    if (!state.value) return
    let built = deepClone(state.value.document) as GraphDocument
    for (const edit of pending) built = patched(built, edit.patch) ?? built
    root.value = (draft.value.length && patched(built, draft.value)) || built
    settle()
  }

  /** Find the graph that is worked on again; a path that leads nowhere any more is cut short. */
  function settle(): void {
    const found = levelOf(root.value, path.value, definitions)
    if (found.depth < path.value.length) path.value = path.value.slice(0, found.depth)
    fixed.value = found.fixed || lookOnly.value
    const first = found.graph.outputs?.[0]?.feed
    const saved = found.fixed ? first : (found.graph.looking_at ?? (path.value.length ? first : null))
    const at = fixed.value ? (lookedAt.value[path.value.join('/')] ?? saved) : saved
    document.value = at === found.graph.looking_at ? found.graph : { ...found.graph, looking_at: at ?? null }
  }

  function patched(base: GraphDocument, patch: Operation[]): GraphDocument | null {
    try {
      return applyPatch(base, deepClone(patch) as JsonOperation[], false, false).newDocument
    } catch {
      return null
    }
  }

  function difference(change: (next: GraphDocument) => void, at: string[]): Operation[] {
    const before = draft.value.length ? withoutDraft() : root.value
    const next = deepClone(before) as GraphDocument
    const level = levelOf(next, at)
    if (level.depth < at.length || lookOnly.value) {
      settleFixed(change)
      return []
    }
    if (at.length && at === path.value && !level.graph.looking_at && document.value.looking_at)
      level.graph.looking_at = document.value.looking_at
    const seen = deepClone(next) as GraphDocument
    change(level.graph)
    return JSON.stringify(seen) === JSON.stringify(next) ? [] : (compare(before, next) as Operation[])
  }

  /** Why nothing can be changed where one is. */
  const whyFixed = () =>
    lookOnly.value
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

  function withoutDraft(): GraphDocument {
    let built = deepClone(state.value!.document) as GraphDocument
    for (const edit of pending) built = patched(built, edit.patch) ?? built
    return built
  }

  async function send(): Promise<void> {
    if (sending || !state.value) return
    sending = true
    while (pending.length) {
      saveState.value = 'saving'
      const next = pending[0]!
      const { id, revision } = state.value
      try {
        const answer = await api.edit(id, revision, next.patch, next.label, next.key)
        if (state.value.id !== id) break
        state.value = answer
        pending.shift()
        trouble.value = ''
      } catch (error) {
        if (error instanceof Refusal && error.status === 409 && error.state.graph) {
          state.value = error.state.graph
          trouble.value = 'The graph was changed in another window; your edit was put on top.'
          if (!patched(deepClone(state.value.document) as GraphDocument, next.patch)) {
            pending.shift()
            trouble.value = `The graph was changed in another window, so '${next.label}' could not be kept.`
          }
        } else if (error instanceof Unreachable || (error instanceof Refusal && WAITS.includes(error.status))) {
          saveState.value = 'waiting for the service'
          if (error instanceof Refusal) trouble.value = error.message
          await new Promise((wake) => setTimeout(wake, RETRY_MS))
        } else {
          pending.shift()
          saveState.value = 'not saved'
          trouble.value = error instanceof Error ? error.message : String(error)
        }
      }
      rebuild()
    }
    if (!pending.length && saveState.value !== 'not saved') saveState.value = announced ? 'saving' : 'saved'
    sending = false
  }

  async function walk(step: typeof api.undo): Promise<void> {
    if (!state.value || pending.length || lookOnly.value) return
    draft.value = []
    try {
      state.value = await step(state.value.id, state.value.revision)
    } catch (error) {
      if (error instanceof Refusal && error.state.graph) state.value = error.state.graph
      trouble.value = error instanceof Error ? error.message : String(error)
    }
    rebuild()
  }

  return {
    state,
    root,
    path,
    document,
    fixed,
    lookOnly,
    whyFixed,
    draft,
    saveState,
    trouble,
    undoLabel: computed(() => state.value?.undo ?? null),
    redoLabel: computed(() => state.value?.redo ?? null),

    /** Open a graph, as it was read just now or as it is. */
    async open(id: string, known?: GraphState): Promise<void> {
      path.value = []
      lookedAt.value = {}
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
      if (patch.length) {
        pending.push({ patch, label, key: newKey() })
        saveState.value = 'saving'
      }
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
      if (lookOnly.value) trouble.value = whyFixed()
      else if (patch.length) {
        pending.push({ patch, label, key: newKey() })
        saveState.value = 'saving'
      }
      rebuild()
      void send()
    },

    /** Go into the graph of a node (and, in a loop, into one round), and out again to a depth. */
    async enter(node: string, round?: number): Promise<void> {
      const entry = document.value.nodes[node]
      if (!entry) return
      if (!entry.graph && entry.operator.includes('@') && !definitions[entry.operator]) {
        definitions[entry.operator] = ((await api.definition(entry.operator)) as { graph: GraphDocument }).graph
      }
      draft.value = []
      path.value = [...path.value, round === undefined ? node : `${node}@${round}`]
      rebuild()
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

    undo: () => walk(api.undo),
    redo: () => walk(api.redo),

    /** All that the service does not have yet: pending edits and the draft. */
    unsaved: (): Operation[] => [...pending.flatMap((edit) => edit.patch), ...draft.value],
    /** What an evaluation or a look is based on: the saved revision, and what goes on top of it. */
    basis(): Basis {
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
