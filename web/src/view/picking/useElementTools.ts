/** What is done with the picked elements: spread over their neighbours, or kept as a group. */
import { inject } from 'vue'
import { api } from '../../api/client'
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
      ).looks[0] as { names?: string[]; error?: { message: string } }
      if (look.names) addCard('group_picked', { ...(kind === 'face' ? {} : { kind }), elements: look.names })
      else tell(look.error?.message ?? 'There is no result to pick from.')
    } catch (error) {
      tell(error)
    }
  }

  async function spread(how: 'grow' | 'shrink' | 'piece' | 'loop' | 'ring') {
    const id = graph.state.value?.id
    if (!id || !shownNode.value) return
    const query = { what: 'spread', kind: selection.kind.value, elements: [...selection.chosen.value], how }
    try {
      const look = (await api.looks(id, shownNode.value, [query], graph.basis())).looks[0] as {
        elements?: number[]
        error?: { message: string }
      }
      if (look.error) tell(look.error.message)
      else selection.choose(look.elements ?? [], false)
    } catch (error) {
      tell(error)
    }
  }

  return { makeGroup, spread }
}
