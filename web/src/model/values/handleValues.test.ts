import * as THREE from 'three'
import { describe, expect, it } from 'vitest'
import type { OperatorState } from '../../api/client'
import { directionOf, rounded, snapped, targetsOf, withMoved } from './handleValues'

const parameter = (name: string, shape: string | null, more: object = {}) => ({
  name,
  label: name.replaceAll('_', ' '),
  unit: 'm',
  handle: shape ? { shape, at: [], space: 'own', ...more } : null,
})
const operator = (...parameters: object[]) => ({ parameters }) as unknown as OperatorState
const all = () => true

describe('what can be dragged of a card', () => {
  it('is what has a handle, is shown and holds plain numbers', () => {
    const made = operator(
      parameter('through', 'place'),
      parameter('count', null),
      parameter('direction', 'plane', { at: ['through'] }),
      parameter('hidden', 'place'),
      parameter('written', 'place'),
    )
    const values = {
      through: [1, 2, 3],
      count: 4,
      direction: [0, 1, 0],
      hidden: [0, 0, 0],
      written: { formula: 'position' },
    }
    const found = targetsOf(made, values, (one) => one.name !== 'hidden')
    expect(found.map((target) => target.name)).toEqual(['through', 'direction'])
    expect(found[1]).toMatchObject({ shape: 'plane', base: [1, 2, 3], index: null })
  })

  it('adds up the places that a turn stands at', () => {
    const made = operator(parameter('turn', 'turn', { at: ['around', 'move'] }))
    expect(targetsOf(made, { turn: [0, 90, 0], around: [1, 0, 0], move: [0, 2, 0] }, all)[0]!.base).toEqual([1, 2, 0])
  })

  it('is each place of a list, and a move changes that one alone', () => {
    const made = operator(parameter('places', 'places'))
    const places = [
      [0, 0, 0],
      [1, 0, 0],
      [2, 0, 0],
    ]
    const found = targetsOf(made, { places }, all)
    expect(found.map((target) => target.label)).toEqual(['place 1', 'place 2', 'place 3'])
    expect(withMoved(places, found[1]!, [5, 5, 5])).toEqual([
      [0, 0, 0],
      [5, 5, 5],
      [2, 0, 0],
    ])
  })
})

describe('numbers of handles', () => {
  it('have six digits and no minus zero', () => {
    expect(rounded([0.12345678, -0, 1e-9])).toEqual([0.123457, 0, 1e-9])
  })

  it('snap directions to whole steps of a turn', () => {
    const [x, y, z] = snapped(new THREE.Vector3(1, 0.05, 0.04))
    expect([x, y, z]).toEqual([1, 0, 0])
    const slanted = snapped(new THREE.Vector3(0.7, 0.7, 0.05))
    expect(Math.hypot(...slanted)).toBeCloseTo(1, 3)
    expect(slanted[1]).toBeCloseTo(Math.SQRT1_2, 3)
  })

  it('take up for a direction that has no length', () => {
    expect(directionOf([0, 0, 0]).toArray()).toEqual([0, 1, 0])
    expect(directionOf([0, 0, 5]).toArray()).toEqual([0, 0, 1])
  })
})
