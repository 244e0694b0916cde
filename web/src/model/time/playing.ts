/** Which frame it is time for while frames are played: by the clock, so that slow pictures are left out. */

export interface Played {
  /** First and last frame. */
  range: readonly [number, number]
  /** Frames per second. */
  rate: number
  /** Every how many frames one is shown. */
  step: number
  loop: boolean
}

/** The frame so many seconds after `from` was shown; none: it is over. */
export function frameAfter(
  seconds: number,
  from: number,
  { range: [low, high], rate, step, loop }: Played,
): number | null {
  const at = from + Math.floor((seconds * rate) / step + 1e-9) * step
  if (at <= high) return at
  if (!loop) return null
  const rounds = Math.floor((high - low) / step) + 1
  const since = Math.ceil((at - low) / step)
  return low + (since % rounds) * step
}
