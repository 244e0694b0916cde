/** What texts give for the element that was picked last: asked as one types or picks, shown one round at a time. */
import { createGlobalState } from '@vueuse/core'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { api } from '../../api/client'
import { answerTo, type Live, type LookQuery } from '../../api/results'
import { shownOf, type Shown } from '../../model/live'
import { useEvaluation } from '../useEvaluation'
import { useGraph } from '../useGraph'
import { useSelection } from '../useSelection'

interface Known {
  source: string
  live: Live
}

export const useLive = createGlobalState(() => {
  const graph = useGraph()
  const { shownNode, looks } = useEvaluation()
  const selection = useSelection()
  const known = reactive<Record<string, Known>>({})
  const rounds = ref(new Map<string, number>())
  const wires = shallowRef<Record<string, string>>({})
  /** The text that was looked at last: what its questions found is drawn in the view. */
  const drawn = ref('')
  const asked: Record<string, number> = {}

  const element = computed(() => [...selection.chosen.value].at(-1) ?? null)
  const picked = computed(() =>
    element.value === null ? { kind: null, element: null } : { kind: selection.kind.value, element: element.value },
  )
  const keyOf = (node: string, parameter: string) =>
    `${graph.state.value?.id}/${graph.path.value.join('/')}/${node}/${parameter}`

  async function look(queries: LookQuery[]) {
    const id = graph.state.value?.id
    if (!id || !shownNode.value) return null
    return api.looks(id, shownNode.value, queries, graph.basis()).catch(() => null)
  }

  async function ask(node: string, parameter: string, source: string): Promise<void> {
    if (!graph.document.value.nodes[node]) return
    const key = keyOf(node, parameter)
    const number = (asked[key] = (asked[key] ?? 0) + 1)
    const answer = await look([{ what: 'live', node, parameter, source, ...picked.value }])
    const live = answerTo('live', answer?.looks[0])
    if (number !== asked[key]) return
    if (live) known[key] = { source, live }
    else delete known[key]
  }

  const shown = (node: string, parameter: string): Shown | null => {
    const found = known[keyOf(node, parameter)]
    return found ? shownOf(found.live.block, rounds.value) : null
  }

  /** Values on wires are asked for where there are any. */
  let newest = 0
  const hasWires = computed(() =>
    Object.values(graph.document.value.nodes).some((node) =>
      Object.values(node.parameters ?? {}).some(
        (value) => typeof value === 'object' && value !== null && 'wire' in value,
      ),
    ),
  )
  watch(
    () => [picked.value.kind, picked.value.element, looks.value?.key, shownNode.value, hasWires.value],
    async () => {
      const number = ++newest
      const answer = hasWires.value ? await look([{ what: 'wires', ...picked.value }]) : null
      if (number === newest) wires.value = answerTo('wires', answer?.looks[0])?.values ?? {}
    },
    { immediate: true },
  )

  return {
    picked,
    wires,
    ask,
    shown,

    /** What is known of a text, for whatever source. */
    of: (node: string, parameter: string): Live | null => known[keyOf(node, parameter)]?.live ?? null,

    /** Whether that is about this very source. */
    isAbout: (node: string, parameter: string, source: string): boolean =>
      known[keyOf(node, parameter)]?.source === source,

    /** Show another round of a loop. */
    step(key: string, at: number): void {
      rounds.value = new Map(rounds.value).set(key, Math.max(at, 0))
    },

    /** Draw what a text's questions found; none: nothing. */
    draw(node: string, parameter: string): void {
      const key = node ? keyOf(node, parameter) : ''
      if (key !== drawn.value) rounds.value = new Map()
      drawn.value = key
    },

    /** Lines from where was asked to what was found, in the world. */
    paths: computed<[number, number, number][][]>(() => {
      const found = known[drawn.value]
      if (!found) return []
      return shownOf(found.live.block, rounds.value).marks.flatMap(({ begin, ends }) =>
        ends.map((end) => [begin, end] as [number, number, number][]),
      )
    }),
  }
})
