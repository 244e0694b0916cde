import { expect, test } from 'vitest'
import { binned, evenly, fiveNumbers, within } from './charts'

test('every finite value is counted once', () => {
  const { low, high, counts } = binned([0, 1, 2, 3, NaN, 4, Infinity], 4)
  expect([low, high, counts]).toEqual([0, 4, [1, 1, 1, 2]])
  expect(binned([5, 5, 5], 40).counts).toEqual([3])
  expect(binned([NaN], 4).counts).toEqual([])
})

test('five numbers are those of NumPy’s quantile for 1 to 6', () => {
  expect(fiveNumbers([6, 1, 5, 2, 4, 3])).toEqual([1, 2.25, 3.5, 4.75, 6])
  expect(fiveNumbers([7])).toEqual([7, 7, 7, 7, 7])
  expect(fiveNumbers([NaN])).toBeNull()
})

test('a part of many elements is evenly spread', () => {
  expect(evenly(10, 5)).toEqual([0, 2, 4, 6, 8])
  expect(evenly(3, 5)).toEqual([0, 1, 2])
})

test('elements within ranges are found, ends included', () => {
  expect(within([[1, 2, 3, 4]], [[2, 3]])).toEqual([1, 2])
  expect(
    within(
      [
        [1, 2, 3],
        [9, 5, 9],
      ],
      [
        [1, 3],
        [9, 10],
      ],
    ),
  ).toEqual([0, 2])
  expect(within([], [])).toEqual([])
})
