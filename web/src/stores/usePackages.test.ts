import { expect, it, vi } from 'vitest'
import { openGraph } from '../testing/server'

const said = vi.hoisted(() => [] as { message: string }[])
vi.mock('element-plus', () => ({ ElMessage: (one: { message: string }) => said.push(one) }))

it('shows what was looked at, and the operator once it is in', async () => {
  let code = 201
  await openGraph({}, [], ({ path }) =>
    path.includes('/depot/')
      ? { status: code, body: { review: 'r', operators: [], message: 'the depot is down' } }
      : null,
  )
  const { usePackages } = await import('./usePackages')
  const packages = usePackages()
  await packages.fetchPackage('lift@1.0.0')
  expect(packages.review.value!.review).toBe('r')
  packages.imported('lift@1.0.0')
  expect(packages.review.value).toBeNull()
  expect([packages.browsing.value, packages.shownOperator.value]).toEqual([true, 'lift@1.0.0'])
  code = 503
  await packages.fetchPackage('lift@1.0.0')
  expect(said.at(-1)!.message).toBe('the depot is down')
  expect(packages.review.value).toBeNull()
  packages.publishing.value = 'card'
  packages.published('tall@1.0.0')
  expect([packages.publishing.value, packages.shownOperator.value]).toEqual([null, 'tall@1.0.0'])
})
