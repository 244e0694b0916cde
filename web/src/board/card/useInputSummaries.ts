/** What the inputs of a card hold, for its fields to offer; asked while the card is open. */
import { shallowRef, watch } from 'vue'
import { api } from '../../api/client'
import { answerTo, type Summary } from '../../api/results'
import { splitFeed } from '../../model/document'
import { useEvaluation } from '../../stores/useEvaluation'
import { useGraph } from '../../stores/useGraph'
import type { CardState } from './useCard'

export function useInputSummaries({ node }: CardState, isOpen: () => boolean) {
  const graph = useGraph()
  const { reports } = useEvaluation()
  const summaries = shallowRef<Record<string, Summary>>({})
  const keyOf = (feed: string) => reports.value[splitFeed(feed).from]?.key + feed
  const keys = () =>
    Object.values(node.value?.inputs ?? {})
      .flat()
      .map(keyOf)
      .join()

  async function ask(): Promise<void> {
    if (!isOpen() || !graph.state.value) return
    const made: Record<string, Summary> = {}
    for (const [input, feeds] of Object.entries(node.value?.inputs ?? {})) {
      if (!feeds[0] || reports.value[splitFeed(feeds[0]).from]?.state !== 'done') continue
      const query = api.looks(graph.state.value.id, feeds[0], [{ what: 'summary' }], graph.basis())
      const answer = answerTo('summary', (await query.catch(() => null))?.looks[0])
      if (answer) made[input] = answer
    }
    summaries.value = made
  }
  watch([isOpen, () => JSON.stringify(node.value?.inputs), keys], ask, { immediate: true })
  return summaries
}
