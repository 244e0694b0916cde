/** The values of columns of what is looked at, an array for each, asked for while charts show them. */
import { ref, shallowRef, watch, type Ref } from 'vue'
import { api } from '../../api/client'
import { fetchBuffer } from '../../api/buffers'
import { answerTo, troubleOf, type Kind } from '../../api/results'
import { useEvaluation } from '../../stores/useEvaluation'
import { useGraph } from '../../stores/useGraph'

/** One number of an attribute: its name and which of its parts. */
export interface Column {
  name: string
  part: number
}

export function useValues(kind: Ref<Kind>, columns: Ref<Column[]>) {
  const graph = useGraph()
  const { looks, shownNode } = useEvaluation()
  const values = shallowRef<Float64Array[]>([])
  const trouble = ref('')
  const waiting = ref(false)
  let newest = 0

  watch(
    [kind, () => JSON.stringify(columns.value), () => looks.value?.key, shownNode],
    async () => {
      const number = ++newest
      const id = graph.state.value?.id
      if (!id || !shownNode.value || !columns.value.length) return void (values.value = [])
      waiting.value = true
      const queries = columns.value.map(({ name }) => ({ what: 'attribute' as const, kind: kind.value, name }))
      const answer = await api.looks(id, shownNode.value, queries, graph.basis()).catch((error: Error) => error)
      const got = answer instanceof Error ? [] : answer.looks
      const arrays = await Promise.all(got.map((look, n) => numbersOf(look, columns.value[n]?.part ?? 0)))
      if (number !== newest) return
      waiting.value = false
      trouble.value = answer instanceof Error ? answer.message : got.map(troubleOf).find(Boolean) || ''
      values.value = arrays.filter((array): array is Float64Array => array !== null)
    },
    { immediate: true },
  )

  return { values, trouble, waiting }
}

async function numbersOf(look: Parameters<typeof troubleOf>[0], part: number): Promise<Float64Array | null> {
  const found = answerTo('attribute', look ?? undefined)
  if (!found) return null
  const all = await fetchBuffer(found.values)
  const wide = found.values.shape[1] ?? 1
  const at = Math.min(Math.max(part, 0), wide - 1)
  return Float64Array.from({ length: all.length / wide }, (_, i) => all[i * wide + at]!)
}
