import { expect, it, vi } from 'vitest'
import { openGraph } from '../testing/server'

it('drops answers that come late and keeps what a broken text declared before', async () => {
  const waiting: ((body: object) => void)[] = []
  await openGraph({ s: { operator: 'script' } }, [], ({ path }) =>
    path.endsWith('/texts') || path.includes('/text')
      ? new Promise((resolve) => waiting.push((body) => resolve({ body })))
      : null,
  )
  const { useText } = await import('./useText')
  const text = useText()
  const first = text.ask('s', 'source', 'a')
  const second = text.ask('s', 'source', 'ab')
  await vi.waitFor(() => expect(waiting).toHaveLength(2))
  waiting[1]!({ error: null, controls: [{ name: 'reach' }] })
  expect((await second)!.controls).toHaveLength(1)
  waiting[0]!({ error: null, controls: [] })
  expect(await first).toBeNull()
  expect(text.isAbout('s', 'source', 'ab')).toBe(true)
  expect(text.isAbout('s', 'source', 'a')).toBe(false)
  const broken = text.ask('s', 'source', 'ab(')
  await vi.waitFor(() => expect(waiting).toHaveLength(3))
  waiting[2]!({ error: { message: 'a bracket is missing' }, controls: null })
  await broken
  expect(text.of('s', 'source')!.controls).toHaveLength(1)
  expect(text.of('other', 'source')).toBeNull()
})
