import { describe, expect, it } from 'vitest'
import { panesOf, spanOf, spread, toCamera } from './panes'

describe('two pictures on one canvas', () => {
  it('is spread over all of it while there is one', () => {
    expect(panesOf({ form: 'one', line: 0.3 })).toEqual({ other: null, own: { left: 0, width: 1 } })
    expect(toCamera({ form: 'one', line: 0.3 }, [-0.4, 0.7])).toEqual([-0.4, 0.7])
  })

  it('gives the own result the right half beside another one', () => {
    const panes = { form: 'beside', line: 0.5 } as const
    expect(spanOf(panes)).toEqual({ left: 0.5, width: 0.5 })
    expect(toCamera(panes, [0.5, 0.2])).toEqual([0, 0.2])
    expect(toCamera(panes, [1, 0])![0]).toBeCloseTo(1)
    expect(toCamera(panes, [-0.5, 0.2])).toBeNull()
  })

  it('keeps the picture where it is under a line, and is seen right of that only', () => {
    const panes = { form: 'across', line: 0.25 } as const
    expect(panesOf(panes)).toEqual({ other: { left: 0, width: 0.25 }, own: { left: 0.25, width: 0.75 } })
    expect(toCamera(panes, [0.1, 0.2])![0]).toBeCloseTo(0.1)
    expect(toCamera(panes, [-0.6, 0])).toBeNull()
  })

  it('maps outlines that reach over the edge', () => {
    expect(spread({ form: 'beside', line: 0.5 }, [-1, 0])[0]).toBeCloseTo(-3)
  })
})
