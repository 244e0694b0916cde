/** Looking closer: checks of what is shown, the trace of the picked element, and another result to compare with. */
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import { isError, type Kind } from '../api/looks'
import type { BufferRef } from '../api/buffers'
import { useEvaluation } from '../bench/useEvaluation'
import { useSelection } from '../bench/useSelection'
import { splitFeed } from '../board/document'
import { useChosen } from '../board/useChosen'
import { useGraph } from '../board/useGraph'

export interface Check {
  name: string
  kind: Kind
  count: number
  elements: number[]
  help: string
  repair: { operator: string; parameters: Record<string, unknown> } | null
}

export interface Step {
  feed: string
  kind: Kind
  element: number
  position: [number, number, number]
  how: 'kept' | 'made' | 'new'
}

export interface Difference {
  counts: Record<string, [number, number]>
  attributes: { kind: Kind; name: string; what: string }[]
  moved: number
  farthest: number
  distance: BufferRef
}

export type Panel = '' | 'checks' | 'trace' | 'compare'

const panel = ref<Panel>('')
const checks = shallowRef<Check[] | null>(null)
const steps = shallowRef<Step[] | null>(null)
const difference = shallowRef<Difference | null>(null)
/** The node that the shown one is compared with. */
const against = ref('')
const trouble = ref('')

const graph = useGraph()
const { looks, shownNode } = useEvaluation()
const selection = useSelection()
const { traced } = useChosen()
let newest = 0

async function ask<T>(wish: object): Promise<T | null> {
  const id = graph.state.value?.id
  const number = ++newest
  if (!id || !shownNode.value) return null
  try {
    const answer = (await api.looks(id, shownNode.value, [wish], graph.basis())).looks[0]
    if (number !== newest) return null
    trouble.value = isError(answer) ? answer.error.message : ''
    return isError(answer) ? null : (answer as T)
  } catch (error) {
    trouble.value = error instanceof Error ? error.message : String(error)
    return null
  }
}

async function refresh(): Promise<void> {
  if (panel.value === 'checks') checks.value = (await ask<{ checks: Check[] }>({ what: 'checks' }))?.checks ?? checks.value
  else if (panel.value === 'trace') {
    const element = [...selection.chosen.value].at(-1)
    steps.value = element === undefined ? null : ((await ask<{ steps: Step[] }>({ what: 'trace', kind: selection.kind.value, element }))?.steps ?? null)
  } else if (panel.value === 'compare') {
    const there = against.value && against.value in graph.document.value.nodes
    difference.value = there ? await ask<Difference>({ what: 'difference', to: against.value }) : null
  }
  traced.value = new Set(panel.value === 'trace' ? (steps.value ?? []).map((step) => splitFeed(step.feed).from) : [])
}

watch(
  () => [panel.value, looks.value?.key, looks.value?.node, against.value, panel.value === 'trace' ? [...selection.chosen.value].at(-1) : '', selection.kind.value],
  () => void refresh(),
)
watch([() => graph.state.value?.id, () => graph.path.value.join('/')], () => (against.value = ''))

export function useInspect() {
  return {
    panel, checks, steps, difference, against, trouble,
    toggle: (which: Panel) => (panel.value = panel.value === which ? '' : which),
    /** Where the trace goes through, as places to mark in the view. */
    places: computed(() => (panel.value === 'trace' ? (steps.value ?? []).map((step) => step.position) : [])),
  } // prettier-ignore
}
