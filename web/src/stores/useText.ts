/** What the service knows of a text that is being written: its error, its names, its controls. Shared by card and drawer. */
import { createGlobalState } from '@vueuse/core'
import { reactive } from 'vue'
import { api, type TextState } from '../api/client'
import { useGraph } from './useGraph'

interface Known {
  source: string
  state: TextState
}

export const useText = createGlobalState(() => {
  const known = reactive<Record<string, Known>>({})
  const asked: Record<string, number> = {}
  const graph = useGraph()

  function keyOf(node: string, parameter: string): string {
    return `${graph.state.value?.id}/${node}/${parameter}`
  }

  return {
    /** What was last learned about a node's text, for whatever source. */
    of: (node: string, parameter: string): TextState | null => known[keyOf(node, parameter)]?.state ?? null,

    /** Whether that is about this very source. */
    isAbout: (node: string, parameter: string, source: string): boolean =>
      known[keyOf(node, parameter)]?.source === source,

    /** Ask about a source; an answer that comes late is dropped. Returns the newest state, or null. */
    async ask(node: string, parameter: string, source: string, elements: number[] = []): Promise<TextState | null> {
      const id = graph.state.value?.id
      if (!id) return null
      const key = keyOf(node, parameter)
      const number = (asked[key] = (asked[key] ?? 0) + 1)
      const state = await api.text(id, node, parameter, source, elements, graph.basis()).catch(() => null)
      if (!state || number !== asked[key]) return null
      // While a text is broken, what it declared before stays.
      const before = known[key]?.state
      known[key] = {
        source,
        state: { ...state, controls: state.controls ?? before?.controls, inputs: state.inputs ?? before?.inputs },
      }
      return state
    },
  }
})
