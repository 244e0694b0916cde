/** Where an event is in the picture, from -1 to 1, up and to the right. */
import type { Spot } from '../picking/within'

export function spotOn(canvas: Element, event: Pick<PointerEvent, 'clientX' | 'clientY'>): Spot {
  const around = canvas.getBoundingClientRect()
  return [
    ((event.clientX - around.left) / around.width) * 2 - 1,
    1 - ((event.clientY - around.top) / around.height) * 2,
  ]
}
