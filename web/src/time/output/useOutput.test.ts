import { expect, it } from 'vitest'
import { framesOf, numbered } from './useOutput'

it('goes through the frames in steps, the last one included where a step meets it', () => {
  expect(framesOf({ first: 1, last: 7, step: 3 })).toEqual([1, 4, 7])
  expect(framesOf({ first: 1, last: 6, step: 3 })).toEqual([1, 4])
  expect(framesOf({ first: 3, last: 2, step: 1 })).toEqual([])
})

it('numbers files so that they stand in order', () => {
  expect(numbered('tile', 12, [1, 12], 'ply')).toBe('tile.0012.ply')
  expect(numbered('tile', 12, [1, 12345], 'ply')).toBe('tile.00012.ply')
  expect(numbered('tile', -3, [-3, 5], 'ply')).toBe('tile.-0003.ply')
})
