/** The colours of charts: those of the page, read anew when its theme changes. */
import { computed, type ComputedRef } from 'vue'
import { useTheme } from '../useTheme'

/** Colours of the page, as CSS writes them. */
export interface Ink {
  text: string
  faint: string
  line: string
  bar: string
  live: string
}

export function useInk(): ComputedRef<Ink> {
  const { theme } = useTheme()
  return computed(() => {
    void theme.value
    const style = getComputedStyle(document.documentElement)
    const hue = (name: string) => style.getPropertyValue(name).trim()
    return {
      text: hue('--ink'),
      faint: hue('--faint-ink'),
      line: hue('--line'),
      bar: hue('--wire'),
      live: hue('--accent'),
    }
  })
}
