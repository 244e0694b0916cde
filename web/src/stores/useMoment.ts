/** The moment that is looked at: a frame of the open graph. */
import { createGlobalState, useTimeoutFn } from '@vueuse/core'
import { ref } from 'vue'

/** How long the frame has to rest before all nodes are evaluated at it, and not only what is looked at. */
const REST_MS = 250

export const useMoment = createGlobalState(() => {
  /** The frame; none: the first one of the graph. */
  const frame = ref<number | null>(null)
  /** Whether it is being dragged or played. */
  const moving = ref(false)
  const { start } = useTimeoutFn(() => (moving.value = false), REST_MS, { immediate: false })

  return {
    frame,
    moving,

    /** Go to a frame; more of them may follow soon. */
    pass(to: number): void {
      moving.value = true
      start()
      frame.value = to
    },
    /** Forget where one was: another graph was opened. */
    reset(): void {
      frame.value = null
      moving.value = false
    },
  }
})
