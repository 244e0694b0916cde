/** Looking closer: checks of what is shown, the trace of the picked element, and another result to compare with. */
import { createGlobalState } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import {
  answerTo,
  troubleOf,
  type AnswerTo,
  type Difference,
  type LookAnswer,
  type LookQuery,
  type Step,
} from '../api/results'
import { useEvaluation } from './useEvaluation'
import { useSelection } from './useSelection'
import { splitFeed } from '../model/document'
import { useSelectedCards } from './useSelectedCards'
import { useGraph } from './useGraph'
import { revisionOf } from '../model/revisions'

export const useInspection = createGlobalState(() => {
  /** The name of the panel that is open; none: nothing. */
  const panel = ref('')
  const checks = shallowRef<AnswerTo<'checks'> | null>(null)
  const steps = shallowRef<Step[] | null>(null)
  const difference = shallowRef<Difference | null>(null)
  /** What the shown node is compared with: another card, or (`@` and a revision) itself at an earlier moment. */
  const other = ref('')
  const trouble = ref('')

  const graph = useGraph()
  const { looks, shownNode } = useEvaluation()
  const selection = useSelection()
  const { traced } = useSelectedCards()
  let newest = 0

  const isChosen = computed(() => revisionOf(other.value) !== null || other.value in graph.document.value.nodes)

  async function ask<What extends 'checks' | 'trace' | 'difference'>(
    query: Extract<LookQuery, { what: What }>,
  ): Promise<AnswerTo<What> | null> {
    const id = graph.state.value?.id
    const number = ++newest
    if (!id || !shownNode.value) return null
    try {
      const answer = (await api.looks(id, shownNode.value, [query], graph.basis())).looks[0]
      if (number !== newest) return null
      trouble.value = troubleOf(answer)
      return answerTo((query as LookQuery).what as What, answer)
    } catch (error) {
      trouble.value = error instanceof Error ? error.message : String(error)
      return null
    }
  }

  /** Look at what is compared with. */
  function lookAtOther(queries: LookQuery[]): ReturnType<typeof api.looks> | null {
    const id = graph.state.value?.id
    if (!id || !shownNode.value || !isChosen.value) return null
    const revision = revisionOf(other.value)
    if (revision === null) return api.looks(id, other.value, queries, graph.basis())
    return api.looks(id, shownNode.value, queries, { revision, draft: [], level: graph.basis().level })
  }

  async function refresh(): Promise<void> {
    if (panel.value === 'checks') checks.value = (await ask({ what: 'checks' })) ?? checks.value
    else if (panel.value === 'trace') {
      const element = [...selection.chosen.value].at(-1)
      steps.value =
        element === undefined
          ? null
          : ((await ask({ what: 'trace', kind: selection.kind.value, element }))?.steps ?? null)
    } else if (panel.value === 'compare') {
      const revision = revisionOf(other.value)
      difference.value = isChosen.value
        ? await ask({
            what: 'difference',
            to: revision === null ? other.value : shownNode.value,
            at: revision,
          })
        : null
    }
    traced.value = new Set(panel.value === 'trace' ? (steps.value ?? []).map((step) => splitFeed(step.feed).from) : [])
  }

  watch(
    () => [
      panel.value,
      looks.value?.key,
      looks.value?.node,
      other.value,
      panel.value === 'trace' ? [...selection.chosen.value].at(-1) : '',
      selection.kind.value,
    ],
    () => void refresh(),
  )
  watch([() => graph.state.value?.id, () => graph.path.value.join('/')], () => (other.value = ''))

  return {
    panel,
    checks,
    steps,
    difference,
    other,
    isChosen,
    trouble,
    toggle: (which: string) => (panel.value = panel.value === which ? '' : which),
    /** The answers to queries about what is compared with; null if there is nothing, or it fails. */
    async askOther(queries: LookQuery[]): Promise<LookAnswer[] | null> {
      try {
        return (await lookAtOther(queries))?.looks ?? null
      } catch (error) {
        trouble.value = error instanceof Error ? error.message : String(error)
        return null
      }
    },
    otherMesh: () => lookAtOther([{ what: 'mesh' }]),
    /** Where the trace goes through, as places to mark in the view. */
    places: computed(() => (panel.value === 'trace' ? (steps.value ?? []).map((step) => step.position) : [])),
  }
})
