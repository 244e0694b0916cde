import { expect, it } from 'vitest'
import { timeInParts } from './timing'

it('tells the parts that can be noticed, the longest first', () => {
  const parts = { body: 0.05, resolve: 1.25, 'search tree': 0.02, kernel: 0.0004, 'node a': 0.2 }
  expect(timeInParts(parts, 1.3)).toBe(
    'working out values 1.25 s\ninside: a 200 ms\nthe work itself 50 ms\nsearch trees, in that 20 ms',
  )
  expect(timeInParts({ body: 0.0001 }, 0.0001)).toBe('')
})
