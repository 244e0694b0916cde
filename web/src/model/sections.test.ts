import { expect, test } from 'vitest'
import { sectionsOf } from './sections'

const made = (name: string, section = '') => ({
  name,
  label: name.replaceAll('_', ' '),
  help: `about ${name}`,
  section,
})
const PARAMETERS = [made('side_group', 'names'), made('distance'), made('profile', 'walls'), made('rim_group', 'names')]

test('main parameters come first, then sections as they come up', () => {
  const sections = sectionsOf(PARAMETERS, () => false)
  expect(sections.map((one) => one.section)).toEqual(['', 'names', 'walls'])
  expect(sections[1]!.told).toBe('side group, rim group')
})

test('a closed section says how many of its values are changed', () => {
  const names = sectionsOf(PARAMETERS, (one) => one.name === 'rim_group')[1]!
  expect([names.changed, names.told]).toEqual([1, '1 changed'])
})

test('words find parameters in all sections', () => {
  expect(sectionsOf(PARAMETERS, () => false, 'GROUP').map((one) => one.parameters.length)).toEqual([2])
  expect(sectionsOf(PARAMETERS, () => false, 'about distance')).toHaveLength(1)
  expect(sectionsOf(PARAMETERS, () => false, 'nothing like it')).toEqual([])
})
