import { afterEach, expect, it, vi } from 'vitest'
import { useShortcuts } from './useShortcuts'

const listeners = vi.hoisted(() => [] as ((event: object) => void)[])
vi.mock('@vueuse/core', async (original) => ({
  ...(await original<object>()),
  useEventListener: (_: unknown, __: string, does: (event: object) => void) => listeners.push(does),
}))
afterEach(() => vi.unstubAllGlobals())

function page(isBusy = () => false) {
  vi.stubGlobal('window', {})
  let dialog: object | null = null
  vi.stubGlobal('document', { querySelector: () => dialog })
  vi.stubGlobal('HTMLElement', class {})
  const ran: string[] = []
  const action = (id: string, shortcut: string, more: object = {}) => ({
    id,
    shortcut,
    run: () => ran.push(id),
    ...more,
  })
  useShortcuts(
    () =>
      [
        action('remove', 'Delete'),
        action('redo', 'Ctrl+Shift+Z'),
        action('fold', 'F', { enabled: () => false }),
      ] as never,
    isBusy,
  )
  const press = (key: string, more: object = {}) => {
    const event = { key, target: null, preventDefault: vi.fn(), ...more }
    listeners.at(-1)!(event)
    return event.preventDefault.mock.calls.length > 0
  }
  return { ran, press, open: (one: object | null) => (dialog = one) }
}

it('runs what is pressed, also by its other key', () => {
  const { ran, press } = page()
  expect(press('Delete')).toBe(true)
  expect(press('Backspace')).toBe(true)
  press('y', { ctrlKey: true })
  expect(ran).toEqual(['remove', 'remove', 'redo'])
})

it('leaves alone what is not enabled, not known, or while a dialog is open', () => {
  const { ran, press, open } = page()
  expect(press('f')).toBe(false)
  expect(press('q')).toBe(false)
  open({})
  expect(press('Delete')).toBe(false)
  expect(ran).toEqual([])
})

it('does nothing while something else is going on', () => {
  const { ran, press } = page(() => true)
  press('Delete')
  expect(ran).toEqual([])
})
