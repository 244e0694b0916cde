/** Which handle of the selected card is held, by number; a list of places sets it too. */
import { createGlobalState } from '@vueuse/core'
import { ref } from 'vue'

export const useHeldPlace = createGlobalState(() => ref(0))
