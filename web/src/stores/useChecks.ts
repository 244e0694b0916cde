/** What is wrong with each card's result, in numbers: asked for when an evaluation has come to rest, never while something is dragged. */
import { createGlobalState, watchDebounced } from '@vueuse/core'
import { shallowRef } from 'vue'
import { api } from '../api/client'
import { useEvaluation } from './useEvaluation'
import { useGraph } from './useGraph'

export interface CheckCount {
  name: string
  kind: string
  count: number
  help: string
  /** Whether what came in, or what the operator does, explains it. */
  expected: boolean
}

const REST_MS = 500

export const useChecks = createGlobalState(() => {
  const known = shallowRef<Record<string, { key: string; skipped: boolean; found: CheckCount[] }>>({})
  const graph = useGraph()
  const { reports, running, channel } = useEvaluation()
  let newest = 0
  watchDebounced(
    [reports, running],
    async () => {
      const id = graph.state.value?.id
      if (!id || running.value || graph.draft.value.length) return
      const stale = Object.entries(reports.value).some(
        ([node, report]) => report.state === 'done' && known.value[node]?.key !== report.key,
      )
      if (!stale) return
      const number = ++newest
      const answer = await api.checks(id, channel, graph.basis()).catch(() => null)
      if (answer && number === newest && Object.keys(answer.nodes).length) known.value = answer.nodes
    },
    { debounce: REST_MS, immediate: true },
  )

  return {
    /** What was found at the result that a card has now; nothing while that is not known. */
    of(node: string, key: string | undefined): CheckCount[] {
      const entry = known.value[node]
      return entry && entry.key === key ? entry.found : []
    },

    /** Whether the result is too large to be checked without being asked for. */
    isLeftOut(node: string, key: string | undefined): boolean {
      const entry = known.value[node]
      return entry?.key === key && (entry?.skipped ?? false)
    },
  }
})
