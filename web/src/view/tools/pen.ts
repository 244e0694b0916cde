/** How hard a pen is pressed: told by the device, or simulated for a mouse, whose slow strokes press harder. */

/** What a stroke was like at its last dab. */
export interface PenMoment {
  x: number
  y: number
  /** Milliseconds. */
  at: number
  pressure: number
}

type Felt = Pick<PointerEvent, 'pointerType' | 'pressure' | 'clientX' | 'clientY' | 'timeStamp'>

const SOFTEST = 0.15
/** Speed in pixels per millisecond at which a simulated pen hardly touches. */
const FAST = 2
/** The share of the old pressure that stays, so that it does not jump. */
const STEADY = 0.6

/** The pressure 0..1 of an event: a pen's own; a mouse paints in full, or as a simulated pen by its speed. */
export function pressureOf(event: Felt, before: PenMoment | null = null, simulated = false): number {
  if (event.pointerType === 'pen') return Math.min(Math.max(event.pressure, 0), 1)
  if (!simulated) return 1
  if (!before) return 0.4
  const speed =
    Math.hypot(event.clientX - before.x, event.clientY - before.y) / Math.max(event.timeStamp - before.at, 1)
  const pressed = Math.max(1 - speed / FAST, SOFTEST)
  return Number((STEADY * before.pressure + (1 - STEADY) * pressed).toFixed(3))
}
