import { describe, expect, it } from 'vitest'
import type { TextState } from '../api/client'
import { hintAt, offersAt, rangeOf, spotAt } from './completion'

const name = (name: string, origin: string, type = 'number') => ({ name, origin, type, summary: '0 to 1', unit: '' })
const state = {
  error: null,
  result: '',
  printed: [],
  names: [name('cover', 'attribute'), name('reach', 'control'), name('area', 'built-in')],
  members: {
    reef: [name('closest', 'question', 'place'), name('points', 'elements')],
    here: [name('points', 'around')],
    '()': [name('distance', 'place')],
  },
} as unknown as TextState
const functions = [
  {
    name: 'clamp',
    usage: 'clamp(x, low, high)',
    summary: 'kept within',
    family: 'arithmetic',
    source: 'GLSL',
    example: 'clamp(5, 0, 2) == 2',
  },
  {
    name: 'add_point',
    usage: 'add_point(position, like)',
    summary: 'makes a point',
    family: 'script',
    source: '',
    example: '',
  },
]

describe('completion', () => {
  it('finds the word and what it belongs to', () => {
    expect(spotAt('1 + cov', 7)).toEqual({ from: 4, word: 'cov', owner: null })
    expect(spotAt('reef.clo', 8)).toEqual({ from: 5, word: 'clo', owner: 'reef' })
    expect(spotAt('reef.closest(p).', 16)).toEqual({ from: 16, word: '', owner: '()' })
    expect(spotAt('here.points.co', 14).owner).toBe('here.points')
    expect(spotAt('1.', 2).owner).toBe('?')
  })

  it('offers what exists, controls and attributes before functions', () => {
    const labels = offersAt(spotAt('c', 1), state, functions, true).map((offer) => offer.label)
    expect(labels.indexOf('cover')).toBeLessThan(labels.indexOf('clamp'))
    expect(offersAt(spotAt('reef.', 5), state, functions, true).map((offer) => offer.insert ?? offer.label)).toEqual([
      'closest(',
      'points',
    ])
    expect(offersAt(spotAt('unknown.', 8), state, functions, true)).toEqual([])
  })

  it('keeps making elements out of formulas', () => {
    expect(offersAt(spotAt('add', 3), state, functions, false)).toEqual([])
    expect(offersAt(spotAt('add', 3), state, functions, true)[0]!.insert).toBe('add_point(')
  })

  it('tells about the word under the pointer', () => {
    expect(hintAt('cover * 2', 2, state, functions)).toMatchObject({ from: 0, to: 5, title: 'cover: number' })
    expect(hintAt('clamp(1, 2, 3)', 3, state, functions)!.body).toContain('e.g. clamp(5, 0, 2) == 2')
    expect(hintAt('1 + 2', 1, state, functions)).toBeNull()
  })

  it('turns line and column into a range', () => {
    expect(rangeOf('a\nbcd', 2, 2, 2)).toEqual({ from: 3, to: 5 })
    expect(rangeOf('ab', 9, 9, 9)).toEqual({ from: 2, to: 2 })
  })
})
