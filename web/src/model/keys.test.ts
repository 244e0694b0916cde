import { expect, test } from 'vitest'
import { canBeKey, keyed, rekeyed } from './keys'

const action = (name: string, shortcut?: string) => ({ name, help: '', shortcut, run: () => {} })
const ACTIONS = [action('Skip', 'K'), action('Fold', 'G'), action('Tour')]
const now = (keys: Record<string, string>) => keyed(ACTIONS, keys).map((one) => one.shortcut)

test('an action has its own key until it is changed', () => {
  expect(now({})).toEqual(['K', 'G', undefined])
  expect(now({ Skip: 'Ctrl+K', Tour: 'T' })).toEqual(['Ctrl+K', 'G', 'T'])
})

test('a key that another action had is taken from it, and given back with the old one', () => {
  const taken = rekeyed(ACTIONS, {}, 'Tour', 'G')
  expect(now(taken)).toEqual(['K', undefined, 'G'])
  const back = rekeyed(ACTIONS, rekeyed(ACTIONS, taken, 'Tour', ''), 'Fold', 'G')
  expect(back).toEqual({})
})

test('modifiers alone and arrows are no shortcuts', () => {
  expect(['Control', 'Shift', 'Ctrl+Alt+Shift', 'Tab', 'ArrowUp'].map(canBeKey)).toEqual([
    false,
    false,
    false,
    false,
    false,
  ])
  expect(['A', 'Ctrl+Shift+A', 'Delete', '/', 'Shift+Enter'].map(canBeKey)).toEqual([true, true, true, true, true])
})
