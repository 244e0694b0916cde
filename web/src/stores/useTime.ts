/** Time: which frame is looked at, playing, and keys that are set by turning values. */
import { createGlobalState, useLocalStorage, useRafFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import { canHaveKeys, heldAt, isKeyed, keyAt, withKey } from '../model/time/keyedValues'
import { isFollowing } from '../model/time/following'
import { frameAfter } from '../model/time/playing'
import { useEvaluation } from './useEvaluation'
import { useGraph } from './useGraph'
import { useMoment } from './useMoment'

/** Numbers as they are shown: with six digits. */
function short(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(short)
  return typeof value === 'number' ? Number(value.toPrecision(6)) : value
}

const DEFAULT = { first: 0, last: 47, rate: 24 }
/** Frames that are made ready beyond the one that is looked at while nothing is played. */
const AHEAD = 24

export const useTime = createGlobalState(() => {
  const graph = useGraph()
  const moment = useMoment()
  const evaluation = useEvaluation()
  /** Whether the strip was asked for, or put away; neither: it is there where anything depends on time. */
  const shown = ref<boolean | null>(null)
  const loop = useLocalStorage('reticula loop', true)
  /** Every how many frames are played. */
  const step = ref(1)
  /** The part of the frames that is played; none: all. */
  const part = shallowRef<[number, number] | null>(null)
  /** Whether turning a value sets a key. */
  const armed = ref(false)
  const playing = ref(false)
  /** Whether the drawer shows the values with keys as curves. */
  const curves = ref(false)
  /** Whether the dialog that saves all frames is open. */
  const saving = ref(false)
  const trouble = ref('')

  const timeline = computed(() => graph.root.value.time ?? DEFAULT)
  const frame = computed(() => moment.frame.value ?? timeline.value.first)
  const range = computed<[number, number]>(() => part.value ?? [timeline.value.first, timeline.value.last])
  /** Whether anything here depends on time, or was meant to. */
  const used = computed(() => !!graph.root.value.time || evaluation.timely.value.size > 0)
  const visible = computed(() => shown.value ?? used.value)
  const ready = computed(() => (void evaluation.keptCount.value, evaluation.readyFrames()))
  /** The picture is of another frame than the one that is wanted. */
  const behind = computed(() => evaluation.timely.value.size > 0 && evaluation.shownFrame.value !== frame.value)

  /** Pictures per second while playing: those of the last second. */
  const drawn = ref<number[]>([])
  watch(evaluation.shownFrame, () => {
    const now = performance.now()
    if (playing.value) drawn.value = [...drawn.value.filter((then) => now - then < 1000), now]
  })

  watch(
    () => graph.state.value?.id,
    () => {
      stop()
      part.value = null
      shown.value = null
      armed.value = false
    },
  )

  let began = { at: 0, frame: 0 }
  const clock = useRafFn(({ timestamp }) => tick(timestamp), { immediate: false })

  function tick(now: number): void {
    const played = { range: range.value, rate: timeline.value.rate, step: step.value, loop: loop.value }
    const wanted = frameAfter((now - began.at) / 1000, began.frame, played)
    if (wanted === null) {
      stop()
      return moment.pass(range.value[1])
    }
    if (wanted !== frame.value && (ready.value.has(wanted) || !evaluation.running.value)) moment.pass(wanted)
  }

  function play(): void {
    const [low, high] = range.value
    const from = frame.value < low || frame.value >= high ? low : Math.round(frame.value)
    began = { at: performance.now(), frame: from }
    drawn.value = []
    playing.value = true
    moment.pass(from)
    clock.resume()
  }

  function stop(): void {
    clock.pause()
    playing.value = false
  }

  function go(to: number): void {
    stop()
    trouble.value = ''
    moment.pass(to)
  }

  /** The next frame that is to be made ready: after the one that is looked at, around the end if it is a loop. */
  function next(): number | null {
    const [low, high] = range.value
    const count = Math.floor((high - low) / step.value) + 1
    const at = Math.max(0, Math.ceil((frame.value - low) / step.value))
    for (let n = 0; n < Math.min(count, playing.value ? count : AHEAD); n++) {
      if (at + n >= count && !loop.value) return null
      const frame = low + ((at + n) % count) * step.value
      if (!ready.value.has(frame)) return frame
    }
    return null
  }

  let filling = false
  async function fill(): Promise<void> {
    if (filling) return
    filling = true
    try {
      while (isIdle()) {
        const frame = next()
        if (frame === null) return
        const before = evaluation.keptCount.value
        await evaluation.ahead(frame)
        if (evaluation.keptCount.value === before) return
      }
    } catch {
      // Too much at once, or the service is away: the next frame that is looked at begins it again.
    } finally {
      filling = false
    }
  }

  function isIdle(): boolean {
    const rests = !evaluation.running.value || playing.value
    return visible.value && rests && evaluation.timely.value.size > 0 && graph.draft.value.length === 0
  }
  watch([evaluation.running, frame, visible, playing], () => void fill())

  return {
    shown,
    loop,
    step,
    part,
    armed,
    playing,
    curves,
    saving,
    trouble,
    /** Something is evaluated; what is shown may be about to change. */
    waiting: computed(() => evaluation.running.value),
    timeline,
    frame,
    range,
    visible,
    ready,
    behind,
    play,
    stop,
    speed: computed(() => (playing.value ? drawn.value.length : 0)),

    go,

    /** Go to a frame as it was typed: a number, or a formula such as 12+5. */
    async type(text: string): Promise<void> {
      const names = { frame: frame.value, first: timeline.value.first, last: timeline.value.last }
      try {
        go((await api.frame(text, names)).frame)
      } catch (error) {
        trouble.value = error instanceof Error ? error.message : String(error)
      }
    },

    /** Set the frames of the graph. */
    set(change: Partial<typeof DEFAULT>): void {
      const made = { ...timeline.value, ...change }
      if (made.last < made.first) made[change.first === undefined ? 'first' : 'last'] = change.first ?? made.last
      graph.edit('set the frames', (next) => (next.time = made), graph.path.value.length)
    },

    /** What is stored when a value is turned: with a key at this frame if it has keys, or the strip is armed. */
    turned(stored: unknown, value: unknown, widget: string): unknown {
      if (isFollowing(stored)) return stored
      if (!canHaveKeys(widget, value)) return value
      if (isKeyed(stored)) return withKey(stored, frame.value, value)
      return armed.value && !isKeyed(value) ? { keys: [{ frame: frame.value, value }] } : value
    },

    /** What a value with keys is now; `served` is what the service said for the frame that is shown. */
    now(stored: unknown, served: unknown): unknown {
      if (isFollowing(stored)) return short(served) ?? stored.otherwise
      if (!isKeyed(stored)) return stored
      return keyAt(stored, frame.value)?.value ?? short(served) ?? heldAt(stored, frame.value)
    },
  }
})
