import { expect, it } from 'vitest'
import { fit, shortcutOf } from './actions'

it('finds any part of any word', () => {
  expect(fit('ext', 'extrude', 'raise faces')).toBeGreaterThan(fit('ext', 'set attribute', 'next text'))
  expect(fit('catm', 'smooth subdivide', 'catmull clark')).toBeGreaterThan(0)
  expect(fit('face rai', 'extrude', 'raise faces')).toBeGreaterThan(0)
  expect(fit('face xyz', 'extrude', 'raise faces')).toBe(0)
  expect(fit('', 'extrude', '')).toBeGreaterThan(0)
  expect(fit('mark', 'group', 'name elements mark select')).toBeGreaterThan(
    fit('mark', 'cut curve', 'cut at marked points'),
  )
})

it('names key presses as people read them', () => {
  const none = { ctrlKey: false, metaKey: false, shiftKey: false, altKey: false }
  expect(shortcutOf({ ...none, key: 'z', ctrlKey: true })).toBe('Ctrl+Z')
  expect(shortcutOf({ ...none, key: 'Z', metaKey: true, shiftKey: true })).toBe('Ctrl+Shift+Z')
  expect(shortcutOf({ ...none, key: '/', shiftKey: true })).toBe('/')
  expect(shortcutOf({ ...none, key: 'Delete' })).toBe('Delete')
})
