/** The parts of the page one after the other: what arrives meanwhile, and what is drawn, does not wait for all of them. */
import { onMounted, readonly, ref } from 'vue'

/** Let the page do what waits. */
const breathe = () =>
  new Promise<void>((wake) => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => wake()
    port2.postMessage(null)
  })

/** How many of the parts after the first one are there. */
export function useStages(count: number, pause = breathe) {
  const stage = ref(0)
  onMounted(async () => {
    while (stage.value < count) {
      await pause()
      stage.value += 1
    }
  })
  return readonly(stage)
}
