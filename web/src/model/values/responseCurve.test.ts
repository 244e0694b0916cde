import { describe, expect, it } from 'vitest'
import { addPoint, movePoint, respond, type CurvePoint } from './responseCurve'

const EXPECTED = [0.6016000000000001, 0.9184000000000001, 0.8639999999999998]
const wave: CurvePoint[] = [
  [0, 1],
  [0.25, 0.4],
  [0.5, 1.2],
  [1, 0],
]

describe('response curves', () => {
  it('run through their points and stay level outside', () => {
    for (const [x, y] of wave) expect(respond(wave, x)).toBeCloseTo(y, 12)
    expect(respond(wave, -1)).toBe(1)
    expect(respond(wave, 2)).toBe(0)
    expect(respond([[0.5, 3]], 0.1)).toBe(3)
  })

  it('agree with SciPy, which the core uses', () => {
    // scipy.interpolate.PchipInterpolator([0, .25, .5, 1], [1, .4, 1.2, 0]) at .1, .4 and .8
    expect(respond(wave, 0.1)).toBeCloseTo(EXPECTED[0]!, 9)
    expect(respond(wave, 0.4)).toBeCloseTo(EXPECTED[1]!, 9)
    expect(respond(wave, 0.8)).toBeCloseTo(EXPECTED[2]!, 9)
  })

  it('do not overshoot between neighbours', () => {
    for (let x = 0.25; x <= 0.5; x += 0.01) expect(respond(wave, x)).toBeLessThanOrEqual(1.2 + 1e-12)
  })

  it('keep their points in order', () => {
    expect(movePoint(wave, 1, [0.9, -3])[1]).toEqual([0.5, 0])
    expect(movePoint(wave, 1, [0.1, -3], -2)[1]).toEqual([0.1, -2])
    expect(addPoint(wave, [0.7, 1]).map((point) => point[0])).toEqual([0, 0.25, 0.5, 0.7, 1])
    expect(addPoint(wave, [0.501, 1])).toBe(wave)
  })
})
