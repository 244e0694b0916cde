import { expect, it } from 'vitest'
import { change, count, duration, short, shortChange, typedNumber } from './numbers'

it('reads typed numbers', () => {
  expect(['1.5', ' -2e3 '].map(typedNumber)).toEqual([1.5, -2000])
  for (const none of ['', ' ', 'x', '1/0', 'Infinity']) expect(typedNumber(none)).toBeNull()
})

it('writes numbers for people', () => {
  expect([22922, 0, 999, -1234567, 1234.5678].map(count)).toEqual(['22,922', '0', '999', '-1,234,567', '1,234.568'])
  expect([change(17190), change(-3), change(0)]).toEqual(['+17,190', '−3', ''])
  expect([shortChange(35460), shortChange(-1_250_000), shortChange(876)]).toEqual(['+35k', '−1.3M', '+876'])
  expect([short(0.123456), short(1234.5678), short(0.0000123), short(12), short(NaN)]).toEqual([
    '0.1235',
    '1235',
    '1.23e-5',
    '12',
    '–',
  ])
  expect([duration(0.0001), duration(0.0356), duration(2.345), duration(61)]).toEqual([
    '<1 ms',
    '36 ms',
    '2.35 s',
    '61.0 s',
  ])
})
