/** Changes that the service works out: fold, unfold, rename, make a dial, tie, take another release. */
import { createGlobalState } from '@vueuse/core'
import { ElMessage } from 'element-plus'
import { api, type Change, type ChangeOf, type Schemas } from '../api/client'
import { useGraph } from './useGraph'

/** Say what went wrong. */
export function tell(error: unknown): void {
  ElMessage({
    type: 'error',
    message: error instanceof Error ? error.message : String(error),
    duration: 8000,
    showClose: true,
  })
}

export const useChanges = createGlobalState(() => {
  const graph = useGraph()

  return {
    /** Make a change at the graph that is worked on; returns the cards that it is about, or null if it was refused (and said). */
    async make<What extends Change['what']>(
      label: string,
      what: What,
      takes: ChangeOf<What>,
    ): Promise<Schemas['ChangeState'] | null> {
      const id = graph.state.value?.id
      if (!id) return null
      graph.dropPreview()
      try {
        const answer = await api.change(id, { what, ...takes } as unknown as Change, graph.basis())
        graph.apply(label, answer.patch as never)
        return answer
      } catch (error) {
        tell(error)
        return null
      }
    },
  }
})
