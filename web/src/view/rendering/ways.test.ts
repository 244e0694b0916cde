import { expect, it } from 'vitest'
import { segmentsOf, type Way } from './ways'

const way = (count: number): Way => Array.from({ length: count }, (_, i) => [i, 0, 0])

it('joins the places of a way, and no two ways', () => {
  expect(segmentsOf([way(3), way(0), way(1), way(2)])).toEqual([0, 1, 1, 2, 4, 5])
  expect(segmentsOf([])).toEqual([])
})
