/** The way between frames and pixels along a strip, and the frames at which it has marks. */
import { computed, type Ref } from 'vue'

const STEPS = [1, 2, 5, 10, 12, 24, 48, 100, 200, 240, 500, 1000, 2000, 5000, 10000, 20000, 50000]
/** The least room for a number, in pixels. */
const ROOM = 44

/** `pad` is the room before the first and after the last frame, in pixels. */
export function useTrack(width: Ref<number>, range: () => [number, number], pad = 10) {
  const perFrame = computed(() => Math.max(width.value - 2 * pad, 1) / Math.max(range()[1] - range()[0], 1))
  const x = (frame: number) => pad + (frame - range()[0]) * perFrame.value

  return {
    perFrame,
    x,
    /** The frame at a place, not rounded. */
    frameAt: (at: number) => range()[0] + (at - pad) / perFrame.value,
    ticks: computed(() => {
      const step = STEPS.find((each) => each * perFrame.value >= ROOM) ?? STEPS.at(-1)!
      const [low, high] = range()
      const first = Math.ceil(low / step) * step
      return Array.from({ length: Math.max(0, Math.floor((high - first) / step) + 1) }, (_, n) => first + n * step)
    }),
  }
}

/** Frames, in order, as stretches without a gap: first and last frame of each. */
export function stretches(frames: Iterable<number>): [number, number][] {
  const found: [number, number][] = []
  for (const frame of [...frames].sort((a, b) => a - b)) {
    const last = found.at(-1)
    if (last && frame - last[1] <= 1) last[1] = frame
    else found.push([frame, frame])
  }
  return found
}
