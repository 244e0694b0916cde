/** The example of an operator: its text, and its cards put into the open graph. */
import { shallowRef, ref, watch } from 'vue'
import { api, type OperatorState, type Schemas } from '../api/client'
import { paste } from '../model/clipboard'
import type { GraphDocument } from '../model/document'
import { tell } from '../stores/useChanges'
import { useDemos } from '../stores/useDemos'
import { useGraph } from '../stores/useGraph'

export function useExample(operator: () => OperatorState) {
  const graph = useGraph()
  const example = shallowRef<Schemas['ExampleState'] | null>(null)
  const trouble = ref('')

  watch(
    operator,
    async (entry) => {
      example.value = null
      trouble.value = ''
      if (entry.published) return
      try {
        const found = await api.example(entry.name)
        if (operator().name === entry.name) example.value = found
      } catch (error) {
        trouble.value = `Its example could not be fetched: ${error instanceof Error ? error.message : String(error)}`
      }
    },
    { immediate: true },
  )

  return {
    example,
    trouble,
    /** Put its cards into the graph that is worked on, and look at what they make; says whether that could be done. */
    async insert(): Promise<boolean> {
      const found = example.value
      if (!found) return false
      if (graph.fixed.value) {
        tell(graph.whyFixed())
        return false
      }
      const { nodes, looking_at } = found.document as unknown as GraphDocument
      try {
        await useDemos().fetchShapes(found.shapes)
      } catch (error) {
        tell(error)
        return false
      }
      graph.edit(`example of ${operator().label}`, (next) => {
        const known = Object.keys(nodes)
        const made = paste(next, { format: 'reticula cards', version: 1, nodes, dials: {} })
        next.looking_at = made[known.indexOf((looking_at ?? '').split(':')[0]!)] ?? next.looking_at
      })
      return true
    },
  }
}
