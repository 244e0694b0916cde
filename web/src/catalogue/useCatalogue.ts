/** All operators and functions, loaded once. */
import { reactive } from 'vue'
import { api, type OperatorList, type OperatorState, type ParameterState } from '../api/client'

const catalogue = reactive<OperatorList>({ operators: [], functions: [], formats: {} })

export function useCatalogue() {
  return {
    catalogue,
    load: async () => Object.assign(catalogue, await api.operators()),
    operator: (name: string): OperatorState | undefined => catalogue.operators.find((entry) => entry.name === name),
  }
}

/** Whether a parameter matters, given the values of its siblings, which must matter themselves. */
export function isShown(parameter: ParameterState, operator: OperatorState, given: Record<string, unknown>): boolean {
  const rule = parameter.shown_when
  if (!rule) return true
  const sibling = operator.parameters.find((entry) => entry.name === rule.parameter)
  if (sibling && !isShown(sibling, operator, given)) return false
  const value = given[rule.parameter] ?? sibling?.default
  return Array.isArray(rule.value) ? rule.value.includes(value) : value === rule.value
}
