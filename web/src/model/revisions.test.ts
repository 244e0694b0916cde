import { expect, it } from 'vitest'
import { momentsOf, revisionOf } from './revisions'

it('offers the moments before the last edits, the latest first', () => {
  const log = [
    { revision: 1, kind: 'edit', label: 'add box' },
    { revision: 2, kind: 'edit', label: '' },
    { revision: 3, kind: 'undo', label: 'add box' },
  ] as const
  expect(momentsOf([...log])).toEqual([
    { key: '@2', label: 'before undoing ‘add box’' },
    { key: '@1', label: 'before ‘a change’' },
    { key: '@0', label: 'before ‘add box’' },
  ])
  expect(momentsOf([...log], 1)).toHaveLength(1)
})

it('tells a moment from a card', () => {
  expect(revisionOf('@12')).toBe(12)
  expect(revisionOf('grid_1')).toBeNull()
  expect(revisionOf('grid@2')).toBeNull()
  expect(revisionOf('')).toBeNull()
})
