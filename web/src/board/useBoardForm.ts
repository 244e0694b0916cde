/** How the board draws a graph: as lanes or as cards; lanes where there are many nodes, unless it was chosen for this graph. */
import { useLocalStorage } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useGraph } from '../stores/useGraph'

export const FORMS = ['lanes', 'cards'] as const
export type BoardForm = (typeof FORMS)[number]

/** Nodes above which a graph is drawn as lanes unless it is asked for as cards. */
const MANY = 8

export function useBoardForm() {
  const graph = useGraph()
  const chosen = useLocalStorage<Record<string, BoardForm>>('reticula board forms', {})
  const place = computed(() =>
    [graph.state.value?.id ?? '', ...graph.path.value.map((step) => step.split('@')[0])].join('/'),
  )
  /** Decided when a graph is opened, so that the ninth node does not change the picture under one's hands. */
  const usual = ref<BoardForm>('cards')
  watch(place, () => (usual.value = Object.keys(graph.document.value.nodes).length > MANY ? 'lanes' : 'cards'), {
    immediate: true,
  })

  return computed<BoardForm>({
    get: () => chosen.value[place.value] ?? usual.value,
    set: (form) => (chosen.value = { ...chosen.value, [place.value]: form }),
  })
}
