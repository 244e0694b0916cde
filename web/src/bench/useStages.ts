/** The parts of the page one after the other: the picture does not wait for all of them. */
import { onMounted, readonly, ref } from 'vue'

/** How many of the parts after the first one are there; `pause` comes before each of them, which it is told. */
export function useStages(count: number, pause: (next: number) => Promise<unknown>) {
  const stage = ref(0)
  onMounted(async () => {
    while (stage.value < count) {
      await pause(stage.value + 1)
      stage.value += 1
    }
  })
  return readonly(stage)
}
