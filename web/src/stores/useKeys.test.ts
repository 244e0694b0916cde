import { expect, test } from 'vitest'
import { useKeys } from './useKeys'

test('hints name the key that works', () => {
  const { changed, usual, hint } = useKeys()
  const action = (name: string, shortcut?: string) => ({ name, help: '', shortcut, run: () => {} })
  usual.value = [action('Skip', 'K'), action('Tour')]
  expect([hint('Skip'), hint('Tour'), hint('nobody')]).toEqual([' (K)', '', ''])
  changed.value = { Skip: 'Ctrl+K' }
  expect(hint('Skip')).toBe(' (Ctrl+K)')
})
