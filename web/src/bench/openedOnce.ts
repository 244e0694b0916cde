/** A part of the page that is neither fetched nor mounted before it is first opened, and then stays. */
import { whenever } from '@vueuse/core'
import { ref, type Ref } from 'vue'

/** Whether it was open at any time. */
export function openedOnce(open: () => unknown): Ref<boolean> {
  const was = ref(false)
  whenever(open, () => (was.value = true), { immediate: true, once: true })
  return was
}
