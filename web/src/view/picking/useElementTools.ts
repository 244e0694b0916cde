/** What is done with the picked elements: spread over their neighbours, or kept as a group. */
import { inject } from 'vue'
import { api } from '../../api/client'
import { answerTo, troubleOf, type LookQuery } from '../../api/results'
import { addCardKey } from '../../stores/injectionKeys'
import { tell } from '../../stores/useChanges'
import { useEvaluation } from '../../stores/useEvaluation'
import { useGraph } from '../../stores/useGraph'
import { useSelection } from '../../stores/useSelection'

export function useElementTools() {
  const graph = useGraph()
  const selection = useSelection()
  const { shownNode } = useEvaluation()
  const addCard = inject(addCardKey, () => {})

  /** Keep what is picked as a group: by stable names, so it stays when others come and go. */
  async function makeGroup() {
    const id = graph.state.value?.id
    if (!id || !shownNode.value) return
    const kind = selection.kind.value
    try {
      const look = (
        await api.looks(
          id,
          shownNode.value,
          [{ what: 'names', kind, elements: [...selection.chosen.value] }],
          graph.basis(),
        )
      ).looks[0]
      const names = answerTo('names', look)?.names
      if (names) addCard('group_picked', { ...(kind === 'face' ? {} : { kind }), elements: names })
      else tell(troubleOf(look) || 'There is no result to pick from.')
    } catch (error) {
      tell(error)
    }
  }

  async function spread(how: 'grow' | 'shrink' | 'piece' | 'loop' | 'ring') {
    const id = graph.state.value?.id
    if (!id || !shownNode.value) return
    const query: LookQuery = { what: 'spread', kind: selection.kind.value, elements: [...selection.chosen.value], how }
    try {
      const look = (await api.looks(id, shownNode.value, [query], graph.basis())).looks[0]
      if (troubleOf(look)) tell(troubleOf(look))
      else selection.choose(answerTo('spread', look)?.elements ?? [], false)
    } catch (error) {
      tell(error)
    }
  }

  return { makeGroup, spread }
}
