import { expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { fakeService } from '../testing/fakeService'

async function page(dark: boolean) {
  vi.resetModules()
  const classes = new Set<string>()
  const root = {
    dataset: {} as Record<string, string>,
    classList: { toggle: (name: string, on: boolean) => (on ? classes.add(name) : classes.delete(name)) },
  }
  vi.stubGlobal('document', { documentElement: root })
  vi.stubGlobal('window', { matchMedia: () => ({ matches: dark }) })
  const { useTheme } = await import('./useTheme')
  return { ...useTheme(), root, classes }
}

it('follows the system until one is chosen, and keeps the choice', async () => {
  const asked = fakeService(({ method }) => ({ body: method === 'GET' ? {} : { theme: 'day' } }))
  const { theme, load, toggle, root, classes } = await page(true)
  expect(theme.value).toBe('night')
  expect(classes.has('dark')).toBe(true)
  await load()
  expect(theme.value).toBe('night')
  toggle()
  await nextTick()
  expect(root.dataset.theme).toBe('day')
  expect(classes.has('dark')).toBe(false)
  expect(asked.at(-1)).toMatchObject({ method: 'PUT', body: { theme: 'day' } })
  vi.unstubAllGlobals()
})
