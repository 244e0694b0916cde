import { expect, it } from 'vitest'
import { openGraph } from '../testing/server'

const nodes = { d: { operator: 'displace', parameters: { value: { wire: 'n' } } }, n: { operator: 'noise_value' } }
const answering = (body: object) => (one: { path: string }) =>
  one.path.includes('/rewrit') || one.path.endsWith('/wires') ? { body } : null

it('puts the text of a wire in its place', async () => {
  const { graph, asked } = await openGraph(nodes, [], answering({ value: { formula: 'noise(position)' } }))
  const { useRewriting } = await import('./useRewriting')
  await useRewriting().asText('d', 'value')
  expect(asked.at(-1)).toBeDefined()
  expect(graph.document.value.nodes.d!.parameters!.value).toEqual({ formula: 'noise(position)' })
})

it('puts nodes beside a text, and looks at what replaces a script', async () => {
  const drawn = { value: { wire: 'm' }, nodes: { m: { operator: 'maths_value' } }, last: null as string | null }
  const { graph } = await openGraph(nodes, [], answering(drawn))
  const { useRewriting } = await import('./useRewriting')
  await useRewriting().asNodes('d', 'value')
  expect(graph.document.value.nodes.m).toEqual({ operator: 'maths_value' })
  expect(graph.document.value.nodes.d!.parameters!.value).toEqual({ wire: 'm' })
  drawn.last = 'm'
  await useRewriting().asNodes('d', 'source')
  expect(graph.document.value.looking_at).toBe('m')
})
