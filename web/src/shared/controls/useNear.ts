/** What is made when one first comes near a control, by pointer or keyboard, and kept from then on. */
import { ref } from 'vue'

export function useNear() {
  const wanted = ref(false)
  const come = () => {
    wanted.value = true
  }
  return { wanted, near: { pointerenter: come, focusin: come } }
}
