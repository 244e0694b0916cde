import { describe, expect, it } from 'vitest'
import { shown, type Cell, type Row } from './useRows'

const cell = (type: string, part = -1): Cell => ({
  unit: '',
  key: 'k',
  title: 't',
  sort: 's',
  column: 0,
  name: 'n',
  fixed: false,
  type,
  part,
})
const row = (value: unknown): Row => ({ index: 0, cells: [value] })

describe('what a cell shows', () => {
  it('is short and says what it is', () => {
    expect(shown(row(1234567), cell('integer'))).toBe('1234567')
    expect(shown(row(0.1 + 0.2), cell('number'))).toBe('0.3')
    expect(shown(row(true), cell('flag'))).toBe('yes')
    expect(shown(row(false), cell('flag'))).toBe('·')
    expect(shown(row('sand'), cell('text'))).toBe('sand')
    expect(shown(row(null), cell('text'))).toBe('')
  })

  it('is a component of a vector, or the begin of a list', () => {
    expect(shown(row([1, 2.5, 3]), cell('vec3', 1))).toBe('2.5')
    expect(shown(row([1, 2, 3]), cell('integer list'))).toBe('[1, 2, 3]')
    expect(shown(row([1, 2, 3, 4, 5, 6, 7]), cell('integer list'))).toBe('[1, 2, 3, 4, 5, 6, …]')
  })
})
