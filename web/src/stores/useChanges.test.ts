import { expect, it, vi } from 'vitest'
import { openGraph } from '../testing/server'

const said = vi.hoisted(() => [] as { message: string }[])
vi.mock('element-plus', () => ({ ElMessage: (one: { message: string }) => said.push(one) }))

it('works a change out and makes it an edit', async () => {
  const patch = [{ op: 'add', path: '/nodes/b', value: { operator: 'box' } }]
  const { graph, asked } = await openGraph({ a: { operator: 'box' } }, [], ({ path }) =>
    path.endsWith('/changes') ? { body: { patch, cards: ['b'], name: 'b' } } : null,
  )
  const { useChanges } = await import('./useChanges')
  const made = await useChanges().make('copy', 'fold', { nodes: ['a'] })
  expect(made!.cards).toEqual(['b'])
  expect(graph.document.value.nodes.b).toEqual({ operator: 'box' })
  expect(asked.find((one) => one.path.endsWith('/changes'))!.body).toMatchObject({
    change: { what: 'fold', nodes: ['a'] },
  })
})

it('says why a change was refused and changes nothing', async () => {
  const { graph } = await openGraph({ a: { operator: 'box' } }, [], ({ path }) =>
    path.endsWith('/changes') ? { status: 422, body: { code: 'graph', message: 'holds no graph' } } : null,
  )
  const { useChanges } = await import('./useChanges')
  expect(await useChanges().make('unfold', 'unfold', { node: 'a' })).toBeNull()
  expect(said.at(-1)!.message).toBe('holds no graph')
  expect(Object.keys(graph.document.value.nodes)).toEqual(['a'])
})
