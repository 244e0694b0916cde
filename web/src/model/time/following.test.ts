import { describe, expect, it } from 'vitest'
import { columnsOf, followsInWords, isFollowing, paceOf } from './following'

const tide = { table: 'tide', time: 'hours', value: 'level', unit: 'h', speed: 1800, otherwise: 0.5 }

describe('a value that follows a table', () => {
  it('is told from formulas, keys and plain values', () => {
    expect(isFollowing(tide)).toBe(true)
    for (const other of [0.5, null, [1, 2, 3], { formula: 'x' }, { keys: [] }, { table: 'a', other: 1 }])
      expect(isFollowing(other)).toBe(false)
  })

  it('is said by table and columns, and passes at a pace in the unit of the table', () => {
    expect(followsInWords(tide)).toBe('follows tide: level')
    expect(followsInWords({ ...tide, value: ['east', 'north'] })).toBe('follows tide: east, north')
    expect(followsInWords({ ...tide, table: '' })).toBe('follows a table')
    expect(paceOf(tide, { s: 1, h: 3600 })).toBe(0.5)
  })

  it('reads columns of points that hold single values or vectors', () => {
    const point = [
      { name: 'level', type: 'number' },
      { name: 'drift', type: 'vec3' },
      { name: 'near', type: 'integer list' },
      { name: 'turn', type: 'mat3' },
    ]
    expect(columnsOf({ attributes: { point } }).map((one) => one.name)).toEqual(['level', 'drift'])
    expect(columnsOf(undefined)).toEqual([])
  })
})
