/** The history of the open graph: its moments, the one that is looked at, and the way back to one. */
import { createGlobalState } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../../api/client'
import { historyOf, type History, type Moment } from '../../model/history'
import { useGraph } from '../useGraph'

const NOTHING: History = { moments: [], now: 0 }

export const useHistory = createGlobalState(() => {
  const graph = useGraph()
  const history = shallowRef<History>(NOTHING)
  const trouble = ref('')
  /** Two moments that are compared, by revision, and what differs in words. */
  const compared = shallowRef<{
    old: number
    new: number
    changes: { node: string; what: string }[]
    more: number
  } | null>(null)
  let newest = 0

  async function attempt(what: () => Promise<void>): Promise<void> {
    trouble.value = ''
    try {
      await what()
    } catch (error) {
      trouble.value = error instanceof Error ? error.message : String(error)
    }
  }

  async function load(): Promise<void> {
    const id = graph.state.value?.id
    const number = ++newest
    if (!id) return
    await attempt(async () => {
      const { edits } = await api.edits(id)
      if (number === newest) history.value = historyOf(edits)
    })
  }

  watch(
    () => graph.state.value?.id,
    () => {
      history.value = NOTHING
      compared.value = null
      trouble.value = ''
    },
  )

  const title = (one: Moment | undefined) => (one ? one.name || one.label || 'a change' : 'the beginning')

  return {
    history,
    trouble,
    compared,
    load,
    title,
    /** The moment that is looked at instead of now, by revision; none: now. */
    lookedAt: computed(() => graph.past.value?.revision ?? null),

    /** Look at the graph as it was; nothing changes. */
    look: (revision: number): Promise<void> =>
      attempt(async () => {
        const id = graph.state.value?.id
        if (!id) return
        if (revision === history.value.now) return graph.lookBack(null)
        const { document } = await api.moment(id, revision)
        if (graph.state.value?.id === id) graph.lookBack({ revision, document })
      }),

    /** Make the graph what it was then, by an edit. */
    goBack: (revision: number, words: string): Promise<void> =>
      attempt(async () => {
        await graph.goBack(revision, `back to ‘${words}’`)
        await load()
      }),

    name: (revision: number, name: string): Promise<void> =>
      attempt(async () => {
        const id = graph.state.value?.id
        if (!id) return
        await api.nameMoment(id, revision, name)
        await load()
      }),

    compare: (old: number, now: number): Promise<void> =>
      attempt(async () => {
        const id = graph.state.value?.id
        if (!id) return
        const found = await api.compareMoments(id, old, now)
        compared.value = { old, new: now, ...found }
      }),
  }
})
