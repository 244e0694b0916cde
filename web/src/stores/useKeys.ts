/** The actions of the bench with the shortcuts that they have in this browser, so that hints name the key that works. */
import { createGlobalState, useLocalStorage } from '@vueuse/core'
import { computed, shallowRef } from 'vue'
import type { Action } from '../model/actions'
import { keyed, type Keys } from '../model/keys'

export const useKeys = createGlobalState(() => {
  const changed = useLocalStorage<Keys>('reticula keys', {})
  /** The actions as they are declared; the bench sets them. */
  const usual = shallowRef<readonly Action[]>([])
  const actions = computed(() => keyed(usual.value, changed.value))

  /** The key of an action; nothing if it has none. */
  const keyOf = (name: string): string => actions.value.find((action) => action.name === name)?.shortcut ?? ''

  return {
    changed,
    usual,
    actions,

    keyOf,

    /** The key of an action as it stands in a hint, with a space before it; nothing if it has none. */
    hint(name: string): string {
      const key = keyOf(name)
      return key ? ` (${key})` : ''
    },
  }
})
