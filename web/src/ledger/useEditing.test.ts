import { describe, expect, it } from 'vitest'
import { readCell, toCsv } from './useEditing'

describe('what is typed into a cell', () => {
  it('is read by the type of the column', () => {
    expect(readCell(' −0,5 ', 'number')).toBe(-0.5)
    expect(readCell('3', 'integer')).toBe(3)
    expect(readCell('3.5', 'integer')).toBeNull()
    expect(readCell('Yes', 'flag')).toBe(true)
    expect(readCell('maybe', 'flag')).toBeNull()
    expect(readCell(' as is ', 'text')).toBe(' as is ')
    expect(readCell('', 'number')).toBeNull()
    expect(readCell('Infinity', 'number')).toBeNull()
  })
})

it('writes values separated by commas, quoted where needed', () => {
  expect(
    toCsv(
      ['index', 'word'],
      [
        [0, 'a "b", c'],
        [1, [1, 2]],
        [2, null],
      ],
    ),
  ).toBe('index,word\r\n0,"a ""b"", c"\r\n1,1 2\r\n2,')
})
