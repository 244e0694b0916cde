import { expect, it } from 'vitest'
import { rankOf, timeInParts } from './timing'

it('tells the parts that can be noticed, the longest first', () => {
  const parts = { body: 0.05, resolve: 1.25, 'search tree': 0.02, kernel: 0.0004, 'node a': 0.2 }
  expect(timeInParts(parts, 1.3)).toBe(
    'working out values 1.25 s\ninside: a 200 ms\nthe work itself 50 ms\nsearch trees, in that 20 ms',
  )
  expect(timeInParts({ body: 0.0001 }, 0.0001)).toBe('')
})

it('ranks what was evaluated by what it took', () => {
  const report = (seconds: number, state = 'done') => ({ state, seconds, cached: false, parts: { body: seconds } })
  const reports = { a: report(0.1), b: report(2), c: report(9, 'failed'), gone: report(5) }
  expect(rankOf(reports, ['a', 'b', 'c', 'new']).map((entry) => entry.id)).toEqual(['b', 'a'])
})
