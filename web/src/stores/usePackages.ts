/** The way of operators into and out of the catalogue: what is open for that, and what happens after it. */
import { createGlobalState } from '@vueuse/core'
import { ref, shallowRef } from 'vue'
import { api, type ReviewState } from '../api/client'
import { tell } from './useChanges'

export const usePackages = createGlobalState(() => {
  const browsing = ref(false)
  const shownOperator = ref('')
  const publishing = ref<string | null>(null)
  /** How many packages were sent to the depot from here. */
  const sent = ref(0)
  const review = shallowRef<ReviewState | null>(null)

  async function look(ask: Promise<ReviewState>): Promise<void> {
    try {
      review.value = await ask
    } catch (error) {
      tell(error)
    }
  }

  function show(operator: string): void {
    shownOperator.value = operator
    browsing.value = true
  }

  return {
    browsing,
    shownOperator,
    publishing,
    sent,
    review,
    /** Open the page of an operator. */
    show,
    async send(operator: string): Promise<void> {
      await api.sendToDepot(operator)
      sent.value += 1
    },
    reviewFile: (file: File) => look(api.reviewPackage(file)),
    fetchPackage: (operator: string) => look(api.fetchFromDepot(operator)),
    published(operator: string): void {
      publishing.value = null
      show(operator)
    },
    imported(operator: string): void {
      review.value = null
      show(operator)
    },
  }
})
