/** Pane sizes that are dragged or stepped, and come back as they were left. */
import { useLocalStorage } from '@vueuse/core'

export function useSplit(name: string, preset: number, low: number, high: () => number, axis: 'x' | 'y', sign: 1 | -1) {
  const size = useLocalStorage(`reticula ${name}`, preset)
  const keep = (value: number) => (size.value = Math.round(Math.min(Math.max(value, low), high())))

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
    const way = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key]
    if (way) keep(size.value + sign * way * 24)
  }

  return { size, drag, step }
}
