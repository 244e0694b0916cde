/** All operators and functions, loaded once, and again when something was published or imported. */
import { createGlobalState } from '@vueuse/core'
import { shallowReactive } from 'vue'
import type { OperatorList, OperatorState, ParameterState } from '../api/client'
import type { GraphNode } from '../model/document'
import { ahead } from '../api/ahead'
import { describeNested } from '../model/nestedOperator'

export const useCatalogue = createGlobalState(() => {
  /** Nothing in it ever changes: it is taken anew as a whole. */
  const catalogue = shallowReactive<OperatorList>({
    operators: [],
    functions: [],
    formats: {},
    attribute_types: {},
    dial_types: {},
    table_words: { units: {}, taken: {}, outside: {} },
  })

  function operator(name: string): OperatorState | undefined {
    return catalogue.operators.find((entry) => entry.name === name)
  }

  return {
    catalogue,
    load: async () => Object.assign(catalogue, await ahead('operators')),
    operator,

    /** The operator of a node, with the inputs, outputs and dials of the graph that it holds. */
    operatorOf(node: GraphNode | undefined): OperatorState | undefined {
      const base = node && operator(node.operator)
      return base?.holds_graph ? describeNested(base, node!.graph) : base
    },

    /** The newest release of a published operator, if it is newer than the one that a node runs and was not left. */
    newer(node: GraphNode | undefined): string | null {
      const published = node && operator(node.operator)?.published
      const newest = published?.releases.at(-1)
      return published && newest && newest !== published.release && !node.left?.includes(newest) ? newest : null
    },
  }
})

/** The formats that results are written in; the others are only read. */
export const written = (formats: OperatorList['formats']) =>
  Object.entries(formats).filter(([, format]) => format.written)

/** Whether a parameter matters, given the values of its siblings, which must matter themselves. */
export function isShown(parameter: ParameterState, operator: OperatorState, given: Record<string, unknown>): boolean {
  const rule = parameter.shown_when
  if (!rule) return true
  const sibling = operator.parameters.find((entry) => entry.name === rule.parameter)
  if (sibling && !isShown(sibling, operator, given)) return false
  const value = given[rule.parameter] ?? sibling?.default
  return Array.isArray(rule.value) ? rule.value.includes(value) : value === rule.value
}
