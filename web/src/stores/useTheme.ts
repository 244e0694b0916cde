/** Day (paper and ink) or night (deep sea). Follows the system until chosen; the choice is kept by the service. */
import { ahead } from '../api/ahead'
import { createGlobalState } from '@vueuse/core'
import { ref, watchEffect } from 'vue'
import { api } from '../api/client'

export type Theme = 'day' | 'night'

export const useTheme = createGlobalState(() => {
  const system = window.matchMedia?.('(prefers-color-scheme: dark)').matches ? 'night' : 'day'
  const theme = ref<Theme>(system)

  watchEffect(() => {
    document.documentElement.dataset.theme = theme.value
    document.documentElement.classList.toggle('dark', theme.value === 'night')
  })

  return {
    theme,
    load: async () => {
      theme.value = (await ahead('settings')).theme ?? system
    },
    toggle: () => {
      theme.value = theme.value === 'day' ? 'night' : 'day'
      void api.saveSettings({ theme: theme.value }).catch(() => undefined)
    },
  }
})
