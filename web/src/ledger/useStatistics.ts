/** How the values of the listed rows are spread, by column; asked for while that is shown. */
import { shallowRef, watch, type Ref } from 'vue'
import { api } from '../api/client'
import { answerTo, type Kind, type Spread } from '../api/results'
import { useEvaluation } from '../stores/useEvaluation'
import { useGraph } from '../stores/useGraph'

export function useStatistics(shown: Ref<boolean>, kind: Ref<Kind>, where: Ref<string>) {
  const { looks, shownNode } = useEvaluation()
  const graph = useGraph()
  const found = shallowRef<Spread[]>([])
  let newest = 0

  watch(
    [shown, kind, where, () => looks.value?.key, shownNode],
    async () => {
      const id = graph.state.value?.id
      const number = ++newest
      if (!shown.value || !id || !shownNode.value) return
      const answer = await api
        .looks(id, shownNode.value, [{ what: 'statistics', kind: kind.value, where: where.value }], graph.basis())
        .catch(() => null)
      const look = answer?.looks[0]
      if (number !== newest) return
      found.value = answerTo('statistics', look)?.kinds[kind.value] ?? []
    },
    { immediate: true },
  )

  return {
    of: (name: string, part: number): Spread | null =>
      found.value.find((spread) => spread.name === name && spread.part === part) ?? null,
  }
}
