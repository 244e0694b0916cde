/** How much is drawn: fast, plain or studio; by what the machine was measured to manage, unless it is chosen. */

export type Quality = 'fast' | 'plain' | 'studio'
export const QUALITIES: readonly { name: Quality; help: string }[] = [
  { name: 'studio', help: 'shadow on the ground, dark corners, outlines' },
  { name: 'plain', help: 'light of a sky, and the ground with its shadow' },
  { name: 'fast', help: 'the shape alone, for slow machines' },
]

/** Frames that are measured before the quality changes, and what one may take, in ms. */
const MEASURED = 12
const TOO_SLOW = 45

/** Whether a renderer draws without a graphics card, by its name. */
export function isSoftware(renderer: string): boolean {
  return /swiftshader|llvmpipe|softpipe|software|basic render/i.test(renderer)
}

/** The quality that a machine is given: it begins with the best and goes down while frames take too long. */
export class MeasuredQuality {
  private times: number[] = []

  constructor(public now: Quality) {}

  /** Take in how long a frame took while something moved, in ms. Returns whether the quality went down. */
  measure(time: number): boolean {
    this.times.push(time)
    if (this.times.length < MEASURED) return false
    const middle = [...this.times].sort((a, b) => a - b)[MEASURED >> 1]!
    this.times = []
    if (middle <= TOO_SLOW || this.now === 'fast') return false
    this.now = this.now === 'studio' ? 'plain' : 'fast'
    return true
  }
}
