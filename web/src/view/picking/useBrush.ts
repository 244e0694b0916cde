/** Picking by painting: what the pointer passes over while it is pressed joins the choice. */
import { useThrottleFn } from '@vueuse/core'
import type { Spot } from './within'

/** Radius of the brush in pixels. */
export const BRUSH = 16
const SIDES = 12
const PACE_MS = 40

/** The outline of the brush around a spot on a canvas of a width and height in pixels. */
export function brushOutline([x, y]: Spot, width: number, height: number, radius = BRUSH): Spot[] {
  return Array.from({ length: SIDES }, (_, n) => {
    const angle = (n * 2 * Math.PI) / SIDES
    return [x + (Math.cos(angle) * radius * 2) / width, y + (Math.sin(angle) * radius * 2) / height]
  })
}

export function useBrush(size: () => { width: number; height: number }, take: (outline: Spot[]) => void) {
  let pressed = false
  const dab = useThrottleFn((spot: Spot) => take(brushOutline(spot, size().width, size().height)), PACE_MS, true)

  return {
    begin(spot: Spot): void {
      pressed = true
      void dab(spot)
    },
    move(spot: Spot): void {
      if (pressed) void dab(spot)
    },
    end(): void {
      pressed = false
    },
  }
}
