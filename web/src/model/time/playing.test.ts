import { describe, expect, it } from 'vitest'
import { frameAfter } from './playing'

const played = { range: [2, 9] as const, rate: 10, step: 1, loop: false }

describe('playing', () => {
  it('goes by the clock and ends after the last frame', () => {
    expect([0, 0.05, 0.1, 0.69, 0.7].map((seconds) => frameAfter(seconds, 2, played))).toEqual([2, 2, 3, 8, 9])
    expect(frameAfter(0.8, 2, played)).toBeNull()
  })

  it('begins again in a loop', () => {
    expect([0.7, 0.8, 0.9, 1.6].map((seconds) => frameAfter(seconds, 2, { ...played, loop: true }))).toEqual([
      9, 2, 3, 2,
    ])
  })

  it('shows every nth frame for as long as n of them last', () => {
    const every = { ...played, step: 3, loop: true }
    expect([0, 0.2, 0.3, 0.6, 0.9].map((seconds) => frameAfter(seconds, 2, every))).toEqual([2, 2, 5, 8, 2])
  })
})
