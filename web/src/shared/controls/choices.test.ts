import { expect, test } from 'vitest'
import { entriesOf } from './choices'

test('words are their own labels', () => {
  expect(entriesOf(['face', 'edge'])).toEqual([
    { value: 'face', label: 'face' },
    { value: 'edge', label: 'edge' },
  ])
})
