/** Help: the page of the documentation that is open, and the way to the page of an operator. */
import { createGlobalState } from '@vueuse/core'
import { ref } from 'vue'
import { usePackages } from '../usePackages'

export const useHelp = createGlobalState(() => {
  const { show } = usePackages()
  /** The page that is shown in the drawer, as `page.html#section`; none: it is closed. */
  const page = ref('')
  /** The parameter that an operator's page was opened for. */
  const parameter = ref('')

  return {
    page,
    parameter,
    /** Open a page of the documentation beside the work. */
    openPage(name: string): void {
      page.value = name
    },
    /** Open the page of an operator, at a parameter if one is named. */
    openOperator(operator: string, at = ''): void {
      parameter.value = at
      show(operator)
    },
  }
})
