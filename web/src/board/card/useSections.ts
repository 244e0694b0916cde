/** Which sections of an open card are open: those that were left open for this operator, and those that are needed. */
import { useLocalStorage } from '@vueuse/core'
import { computed, type Ref } from 'vue'
import type { ParameterState } from '../../api/client'
import { isBound } from '../../model/document'
import { sectionsOf, type Section } from '../../model/sections'
import type { CardState } from './useCard'

export function useSections({ declared, values, visible, wired, failedAt }: CardState, words: Ref<string>) {
  const left = useLocalStorage<string[]>('reticula open sections', [])
  const keyOf = (section: string) => `${declared.value?.name.split('@')[0] ?? ''}: ${section}`
  const isChanged = (parameter: ParameterState) =>
    JSON.stringify(values.value[parameter.name]) !== JSON.stringify(parameter.default)
  const sections = computed(() => sectionsOf(visible.value, isChanged, words.value))

  /** Wires end at parameters that are shown, and what is wrong is never hidden. */
  const isNeeded = (section: Section<ParameterState>) =>
    section.parameters.some(
      ({ name }) => wired.value.includes(name) || failedAt.value === name || isBound(values.value[name]),
    )
  const isPublished = computed(() => declared.value?.holds_graph || !!declared.value?.published)
  /** Sections of a nested graph were made by whoever made it, to be seen. */
  const isOpen = (section: Section<ParameterState>) =>
    !section.section ||
    words.value.trim() !== '' ||
    isNeeded(section) ||
    left.value.includes(keyOf(section.section)) !== isPublished.value

  function turn(section: string) {
    const key = keyOf(section)
    left.value = left.value.includes(key) ? left.value.filter((one) => one !== key) : [...left.value, key]
  }

  return { sections, isOpen, isNeeded, turn }
}
