import { describe, expect, it } from 'vitest'
import { drawnAt, freeRange, knotsOf, stepOf, valueAt, withStep, type Step } from './profile'

const POINTS: [number, number, Step?][] = [
  [0, 0, 'straight'],
  [0.25, 1, 'constant'],
  [0.5, 2],
  [0.5, 0, 'smooth'],
  [1, 1],
]
const at = (x: number) => valueAt(knotsOf(POINTS, 'smooth'), x)[0]

describe('profiles', () => {
  it('go on as each point says', () => {
    expect([-1, 0.1, 0.25, 0.49, 0.5, 0.75, 1, 2].map(at)).toEqual([0, 0.4, 1, 1, 0, 0.5, 1, 1])
  })

  it('are smooth in runs that end at jumps and other steps, in every channel', () => {
    // scipy.interpolate.PchipInterpolator([.25, .5, 1], [.4, 1.2, 0]) at .4
    const knots = knotsOf(
      [
        [0, 9, 1, 'constant'],
        [0.25, 9, 1],
        [0.25, 0.4, 0],
        [0.5, 1.2, 0],
        [1, 0, 0],
      ],
      'smooth',
    )
    expect(valueAt(knots, 0.4)[0]).toBeCloseTo(1.04, 12)
    expect(valueAt(knots, 0.4)[1]).toBe(0)
    expect(valueAt(knots, 0.1)).toEqual([9, 1])
  })

  it('write down only a step that is not the usual one', () => {
    expect(withStep(POINTS[2]!, 'constant', 'smooth')).toEqual([0.5, 2, 'constant'])
    expect(withStep(POINTS[0]!, 'smooth', 'smooth')).toEqual([0, 0])
    expect(stepOf([0.5, 2], 'straight')).toBe('straight')
  })

  it('let a point meet a neighbour, and not a third one', () => {
    expect(freeRange(POINTS, 1)).toEqual([0, 0.499])
    expect(freeRange(POINTS, 2)).toEqual([0.25, 0.5])
    expect(freeRange(POINTS, 4)).toEqual([0.501, 1])
  })

  it('are drawn on both sides of every point', () => {
    const places = drawnAt(knotsOf(POINTS, 'smooth'), 4)
    expect(places).toHaveLength(15)
    expect(places.filter((x) => x === 0.5)).toHaveLength(3)
    expect(at(places[places.indexOf(0.5) - 1]!)).toBe(1)
  })
})
