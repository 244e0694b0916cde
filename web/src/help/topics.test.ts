import { expect, it } from 'vitest'
import { topicAt, topicOf } from './topics'

it('reads operators with their parameters, and pages', () => {
  expect(topicOf('operator:extrude#distance')).toEqual({ operator: 'extrude', parameter: 'distance' })
  expect(topicOf('operator:box')).toEqual({ operator: 'box', parameter: '' })
  expect(topicOf('time.html#keys')).toBe('time.html#keys')
  expect(topicOf(undefined)).toBe('index.html')
})

it('belongs to what is around an element; else the first page is meant', () => {
  const about = (help: string | null) => ({ closest: () => (help === null ? null : { dataset: { help } }) })
  expect(topicAt(about('time.html'))).toBe('time.html')
  expect(topicAt(about('operator:box'))).toEqual({ operator: 'box', parameter: '' })
  expect(topicAt(about(null))).toBe('index.html')
  expect(topicAt(null)).toBe('index.html')
})
