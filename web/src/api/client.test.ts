import { expect, it, vi } from 'vitest'
import { fakeService } from '../testing/fakeService'
import { fetchBuffer } from './buffers'
import { api, Refusal, Unreachable } from './client'

it('tells a refusal from a service that is away', async () => {
  fakeService(() => ({ status: 422, body: { code: 'graph', message: 'no such node' } }))
  await expect(api.graph('x')).rejects.toMatchObject({ status: 422, message: 'no such node' })
  await expect(api.graph('x')).rejects.toBeInstanceOf(Refusal)
  fakeService(() => new Error('connection refused'))
  await expect(api.graph('x')).rejects.toBeInstanceOf(Unreachable)
})

it('sends what is asked', async () => {
  const asked = fakeService(() => ({ status: 204 }))
  expect(await api.dropAsset('a')).toBeUndefined()
  await api.edit('g', 3, [{ op: 'remove', path: '/nodes/a' }], 'remove', 'mine')
  expect(asked).toEqual([
    { method: 'DELETE', path: '/api/assets/a', body: {} },
    {
      method: 'POST',
      path: '/api/graphs/g/edits',
      body: { revision: 3, patch: [{ op: 'remove', path: '/nodes/a' }], label: 'remove', key: 'mine' },
    },
  ])
})

it('fetches each array once, and again after a failure', async () => {
  let works = false
  const asked = fakeService(() => (works ? { body: new Float32Array([1, 2]).buffer } : { status: 404 }))
  const ref = { digest: 'abc', dtype: 'f4', shape: [2] }
  await expect(fetchBuffer(ref)).rejects.toThrow('could not be fetched')
  works = true
  expect([...(await fetchBuffer(ref))]).toEqual([1, 2])
  await Promise.all([fetchBuffer(ref), fetchBuffer(ref)])
  expect(asked).toHaveLength(2)
  expect(await fetchBuffer({ digest: 'none', dtype: 'u4', shape: [0, 3] })).toHaveLength(0)
  vi.unstubAllGlobals()
})
