/** Pane sizes that are dragged or stepped, panes that are put away, and all of it as it was left on each screen. */
import { useLocalStorage, useWindowSize } from '@vueuse/core'
import { computed } from 'vue'

const STEP = 24
/** The window that the usual sizes are meant for, in pixels. */
const DRAWN_FOR = { width: 1280, height: 800 }
const WAYS: Record<string, -1 | 1> = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }

export function useSplit(name: string, preset: number, low: number, high: () => number, axis: 'x' | 'y', sign: 1 | -1) {
  const stored = useLocalStorage<Record<string, number>>(`reticula ${name} by screen`, {})
  const closed = useLocalStorage(`reticula ${name} closed`, false)
  const room = useWindowSize()
  /** What it takes until it is dragged: a larger window gives all panes more. */
  const usual = computed(() =>
    Math.round(
      preset * Math.max(1, axis === 'x' ? room.width.value / DRAWN_FOR.width : room.height.value / DRAWN_FOR.height),
    ),
  )
  const most = computed(() => (room.width.value + room.height.value >= 0 ? Math.max(high(), low) : low))
  const fit = (value: number) => Math.round(Math.min(Math.max(value, low), most.value))
  /** What the pane takes now, in pixels; a smaller window takes from it without forgetting it. */
  const size = computed(() => (closed.value ? 0 : fit(stored.value[screenKey()] ?? usual.value)))

  function keep(value: number) {
    closed.value = value < low / 2
    if (!closed.value) stored.value = { ...stored.value, [screenKey()]: fit(value) }
  }

  const toggle = () => (closed.value = !closed.value)

  function drag(event: PointerEvent) {
    const begin = axis === 'x' ? event.clientX : event.clientY
    const before = size.value
    const handle = event.currentTarget as HTMLElement
    handle.setPointerCapture(event.pointerId)
    const move = (moved: PointerEvent) => keep(before + sign * ((axis === 'x' ? moved.clientX : moved.clientY) - begin))
    handle.addEventListener('pointermove', move)
    handle.addEventListener('pointerup', () => handle.removeEventListener('pointermove', move), { once: true })
  }

  function step(event: KeyboardEvent) {
    const way = WAYS[event.key]
    if (!way && event.key !== 'Enter') return
    event.preventDefault()
    if (way) keep(size.value + sign * way * STEP)
    else toggle()
  }

  return { size, closed, most, low, toggle, drag, step }
}

function screenKey(): string {
  return typeof screen === 'undefined' ? '' : `${screen.width}x${screen.height}`
}
