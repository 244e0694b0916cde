import { describe, expect, it } from 'vitest'
import { ref } from 'vue'
import { stretches, useTrack } from './useTrack'

describe('the track of frames', () => {
  it('goes from frames to pixels and back', () => {
    const track = useTrack(ref(220), () => [10, 30])
    expect([10, 20, 30].map(track.x)).toEqual([10, 110, 210])
    expect(track.frameAt(track.x(17.5))).toBeCloseTo(17.5)
  })

  it('has numbers no nearer than can be read', () => {
    const track = useTrack(ref(500), () => [1, 240])
    const [first, second] = track.ticks.value
    expect(track.x(second!) - track.x(first!)).toBeGreaterThanOrEqual(44)
    expect(useTrack(ref(500), () => [0, 4]).ticks.value).toEqual([0, 1, 2, 3, 4])
  })

  it('has room for one frame', () => {
    expect(useTrack(ref(100), () => [3, 3]).ticks.value).toEqual([3])
  })

  it('puts frames without a gap together', () => {
    expect(stretches([5, 1, 2, 3, 9])).toEqual([
      [1, 3],
      [5, 5],
      [9, 9],
    ])
  })
})
