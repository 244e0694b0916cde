/** One program, two ways to write it: wires as text, text as value nodes. */
import { createGlobalState } from '@vueuse/core'
import { ElMessage } from 'element-plus'
import { api } from '../api/client'
import type { GraphNode } from '../model/document'
import { useGraph } from './useGraph'

export const useRewriting = createGlobalState(() => {
  const graph = useGraph()

  async function rewrite(
    node: string,
    parameter: string,
    to: 'text' | 'nodes',
    take: (value: unknown, nodes: Record<string, Record<string, unknown>>, last: string | null) => void,
  ): Promise<void> {
    const id = graph.state.value?.id
    if (!id) return
    try {
      const answer = await api.rewrite(id, node, parameter, to, graph.basis())
      take(answer.value, answer.nodes ?? {}, answer.last ?? null)
    } catch (error) {
      ElMessage({
        type: 'error',
        message: error instanceof Error ? error.message : String(error),
        duration: 7000,
        showClose: true,
      })
    }
  }

  return {
    /** Replace the wire at a parameter by the formula that it stands for. */
    async asText(node: string, parameter: string): Promise<void> {
      await rewrite(node, parameter, 'text', (value) => {
        graph.edit(
          'show as text',
          (next) => (next.nodes[node]!.parameters = { ...next.nodes[node]!.parameters, [parameter]: value }),
        )
      })
    },

    /** Draw a formula, or a script, as value nodes. A script stays; what is drawn is put beside it and looked at. */
    async asNodes(node: string, parameter: string): Promise<void> {
      await rewrite(node, parameter, 'nodes', (value, nodes, last) => {
        graph.edit('show as nodes', (next) => {
          for (const [id, made] of Object.entries(nodes)) next.nodes[id] = made as unknown as GraphNode
          if (last) next.looking_at = last
          else next.nodes[node]!.parameters = { ...next.nodes[node]!.parameters, [parameter]: value }
        })
      })
    },
  }
})
