import { describe, expect, it } from 'vitest'
import { historyOf, whenOf, type LoggedEdit } from './history'

const AT = '2026-05-01T10:00:00+00:00'
const edit = (revision: number, label = `edit ${revision}`): LoggedEdit => ({
  revision,
  kind: 'edit',
  label,
  target: null,
  author: '',
  at: AT,
  name: '',
})
const back = (revision: number, target: number): LoggedEdit => ({ ...edit(revision), kind: 'undo', target })
const again = (revision: number, target: number): LoggedEdit => ({ ...edit(revision), kind: 'redo', target })

describe('the history of a graph', () => {
  it('is a moment for each edit', () => {
    const { moments, now } = historyOf([edit(1), edit(2), edit(3)])
    expect(moments.map((one) => [one.revision, one.before, one.used])).toEqual([
      [1, 0, true],
      [2, 1, true],
      [3, 2, true],
    ])
    expect(now).toBe(3)
  })

  it('keeps what undo left behind as a branch', () => {
    const { moments, now } = historyOf([edit(1), edit(2), edit(3), back(4, 3), back(5, 2), edit(6), edit(7)])
    expect(now).toBe(7)
    expect(moments.map((one) => [one.revision, one.used, one.branch])).toEqual([
      [1, true, 0],
      [2, false, 1],
      [3, false, 1],
      [6, true, 0],
      [7, true, 0],
    ])
    expect(moments.find((one) => one.revision === 6)!.before).toBe(1)
  })

  it('goes back and forth by undo and redo', () => {
    expect(historyOf([edit(1), edit(2), back(3, 2)]).now).toBe(1)
    expect(historyOf([edit(1), edit(2), back(3, 2), again(4, 2)]).now).toBe(2)
    expect(historyOf([edit(1), back(2, 1)]).now).toBe(0)
  })

  it('gives each branch a number of its own', () => {
    const { moments } = historyOf([edit(1), back(2, 1), edit(3), back(4, 3), edit(5)])
    expect(moments.map((one) => one.branch)).toEqual([1, 2, 0])
  })

  it('keeps a name that was given after an undo', () => {
    const { moments } = historyOf([edit(1), edit(2), { ...back(3, 2), name: 'Sent to the kiln' }])
    expect(moments[0]!.name).toBe('Sent to the kiln')
  })

  it('says when in words', () => {
    const at = new Date(2026, 4, 1, 9, 5)
    expect(whenOf(at.toISOString(), new Date(2026, 4, 1, 18))).toBe('09:05')
    expect(whenOf(at.toISOString(), new Date(2026, 4, 2))).toBe('1 May, 09:05')
  })
})
