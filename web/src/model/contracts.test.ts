import { expect, it } from 'vitest'
import { CONDITIONS, conditionText } from './contracts'

it('says each condition in words', () => {
  for (const { what } of CONDITIONS) expect(conditionText({ what, formula: 'x > 1' })).not.toBe('')
  expect(conditionText({ what: 'closed' })).toBe('has no open border')
  expect(conditionText({ what: 'attribute', kind: 'face', name: 'top' })).toBe('has the face attribute ‘top’')
  expect(conditionText({ what: 'attribute' })).toBe('has the point attribute ‘’')
  expect(conditionText({ what: 'least area', value: 0.5 })).toBe('no face is smaller than 0.5 m²')
  expect(conditionText({ what: 'keeps points', input: 'scan' })).toBe('keeps the points of ‘scan’')
  expect(conditionText({ what: 'formula', formula: 'high.y < 2' })).toBe('high.y < 2')
})

it('says what it does not know by its own name', () => {
  expect(conditionText({ what: 'from a later version' })).toBe('from a later version')
})
