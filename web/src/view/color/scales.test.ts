import { describe, expect, it } from 'vitest'
import { colorAt, covered, css, gradientOf, SCALES, scaleFor, tint } from './scales'

/** Relative luminance of linearised sRGB, ITU-R BT.709. */
function luminance([r, g, b]: [number, number, number]): number {
  const linear = (c: number) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4)
  return 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b)
}

describe('scales', () => {
  for (const name of ['even', 'warm', 'calm'] as const)
    it(`${name} gets lighter all the way`, () => {
      const steps = Array.from({ length: 33 }, (_, i) => luminance(colorAt(name, i / 32)))
      for (let i = 1; i < steps.length; i++) expect(steps[i]!).toBeGreaterThan(steps[i - 1]! - 1e-3)
      expect(steps.at(-1)! - steps[0]!).toBeGreaterThan(0.4)
    })

  it('signed is light in the middle and two hues at its ends', () => {
    const [low, middle, high] = [0, 0.5, 1].map((at) => colorAt('signed', at))
    expect(luminance(middle!)).toBeGreaterThan(luminance(low!))
    expect(luminance(middle!)).toBeGreaterThan(luminance(high!))
    expect(low).not.toEqual(high)
    expect(covered('signed', -1, 3)).toEqual([-3, 3])
    expect(covered('even', -1, 3)).toEqual([-1, 3])
  })

  it('hold their ends and what is no number', () => {
    expect(colorAt('even', -5)).toEqual(colorAt('even', 0))
    expect(colorAt('even', 7)).toEqual(colorAt('even', 1))
    expect(colorAt('even', NaN)).toEqual(colorAt('even', 0))
  })

  it('give neighbouring numbers tints that are far apart', () => {
    for (let n = 0; n < 20; n++) {
      const [a, b] = [tint(n), tint(n + 1)]
      expect(Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])).toBeGreaterThan(0.2)
    }
  })

  it('follow what is chosen, and are styles for the legend', () => {
    expect(scaleFor('piece', 'warm')).toBe('distinct')
    expect(scaleFor('heat', 'distinct')).toBe('even')
    expect(scaleFor('heat', 'warm')).toBe('warm')
    expect(css([1, 0.5, 0])).toBe('rgb(255 128 0)')
    for (const { name } of SCALES) expect(gradientOf(name)).toMatch(/^linear-gradient\(to right, rgb/)
  })
})
