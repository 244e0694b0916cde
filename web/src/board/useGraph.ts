/** The open graph: what is drawn, what is saved, and the way from one to the other. */
import { applyPatch, compare, deepClone, type Operation as JsonOperation } from 'fast-json-patch'
import { computed, ref, shallowRef } from 'vue'
import { api, Refusal, Unreachable, type Basis, type GraphState, type Operation } from '../api/client'
import type { GraphDocument } from './document'

export type SaveState = 'saved' | 'saving' | 'waiting for the service' | 'not saved'

interface Pending {
  patch: Operation[]
  label: string
}

const RETRY_MS = 2000

const state = shallowRef<GraphState | null>(null)
/** The document as drawn: the saved one with pending edits and the draft of a drag on top. */
const document = shallowRef<GraphDocument>({ format: 'reticula graph', version: 1, nodes: {}, dials: {} })
const draft = shallowRef<Operation[]>([])
const saveState = ref<SaveState>('saved')
const trouble = ref('')
let pending: Pending[] = []
let sending = false

function rebuild(): void {
  if (!state.value) return
  let built = deepClone(state.value.document) as GraphDocument
  for (const edit of pending) built = patched(built, edit.patch) ?? built
  document.value = (draft.value.length && patched(built, draft.value)) || built
}

function patched(base: GraphDocument, patch: Operation[]): GraphDocument | null {
  try {
    return applyPatch(base, deepClone(patch) as JsonOperation[], false, false).newDocument
  } catch {
    return null
  }
}

function difference(change: (next: GraphDocument) => void): Operation[] {
  const before = draft.value.length ? withoutDraft() : document.value
  const next = deepClone(before) as GraphDocument
  change(next)
  return compare(before, next) as Operation[]
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
      const answer = await api.edit(id, revision, next.patch, next.label)
      if (state.value.id !== id) break
      state.value = answer
      pending.shift()
      trouble.value = ''
    } catch (error) {
      if (error instanceof Refusal && error.status === 409 && error.state.graph) {
        state.value = error.state.graph as GraphState
        trouble.value = 'The graph was changed in another window; your edit was put on top.'
        if (!patched(deepClone(state.value.document) as GraphDocument, next.patch)) {
          pending.shift()
          trouble.value = `The graph was changed in another window, so '${next.label}' could not be kept.`
        }
      } else if (error instanceof Unreachable || (error instanceof Refusal && error.status >= 500)) {
        saveState.value = 'waiting for the service'
        await new Promise((wake) => setTimeout(wake, RETRY_MS))
      } else {
        pending.shift()
        saveState.value = 'not saved'
        trouble.value = error instanceof Error ? error.message : String(error)
      }
    }
    rebuild()
  }
  if (!pending.length && saveState.value !== 'not saved') saveState.value = 'saved'
  sending = false
}

async function walk(step: typeof api.undo): Promise<void> {
  if (!state.value || pending.length) return
  draft.value = []
  try {
    state.value = await step(state.value.id, state.value.revision)
  } catch (error) {
    if (error instanceof Refusal && error.state.graph) state.value = error.state.graph as GraphState
    trouble.value = error instanceof Error ? error.message : String(error)
  }
  rebuild()
}

export function useGraph() {
  return {
    state,
    document,
    draft,
    saveState,
    trouble,
    undoLabel: computed(() => state.value?.undo ?? null),
    redoLabel: computed(() => state.value?.redo ?? null),

    async open(id: string): Promise<void> {
      pending = []
      draft.value = []
      state.value = await api.graph(id)
      saveState.value = 'saved'
      trouble.value = ''
      rebuild()
    },

    /** Change the document and save it; `label` is what undo will call it. */
    edit(label: string, change: (next: GraphDocument) => void): void {
      const patch = difference(change)
      draft.value = []
      if (patch.length) {
        pending.push({ patch, label })
        saveState.value = 'saving'
      }
      rebuild()
      void send()
    },

    /** Show a change without saving it, while something is dragged or typed. */
    preview(change: (next: GraphDocument) => void): void {
      draft.value = difference(change)
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
      return { revision: state.value?.revision ?? 0, draft: this.unsaved() }
    },
    hasUnsaved: (): boolean => pending.length > 0,
  }
}
