import { expect, test } from 'vitest'
import type { GraphDocument } from './document'
import { keepPreset, presetOf, presetOn, standing, takePreset } from './presets'

const dial = (value: unknown) => ({ type: 'number', value }) as never
const tile = (): GraphDocument => ({
  format: 'reticula graph',
  version: 1,
  dials: { lift: dial(0.1), size: dial([1, 2]) },
  nodes: { up: { operator: 'extrude' } },
})

test('a preset is kept, known while its values stand, and taken again', () => {
  const document = tile()
  expect(presetOn(document)).toBe('')
  keepPreset(document, 'flat', standing(document))
  expect(presetOn(document)).toBe('flat')
  keepPreset(document, 'tall', { lift: 0.9 })
  document.dials!.lift!.value = 0.9
  expect(presetOn(document)).toBe('tall')
  takePreset(document, 'flat')
  expect(standing(document)).toEqual({ lift: 0.1, size: [1, 2] })
  keepPreset(document, 'flat', { lift: 0.3 })
  expect(Object.keys(document.presets!)).toEqual(['flat', 'tall'])
  expect(presetOn(document)).toBe('')
})

test('dials that are gone stay away, and values of cards are not kept', () => {
  const document = tile()
  document.presets = { old: { lift: 0.5, gone: 3 } }
  takePreset(document, 'old')
  expect(standing(document)).toEqual({ lift: 0.5, size: [1, 2] })
  expect(presetOf(document, { lift: 0.2, site: 'bay', 'depth [m. s]': 3 })).toEqual({ lift: 0.2 })
  expect(presetOf(document, { site: 'bay' })).toBeNull()
  expect(presetOf(document, { lift: 0.2, 'up.distance': 1 })).toBeNull()
})
