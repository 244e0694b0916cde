import { expect, it } from 'vitest'
import { fakeService } from '../testing/fakeService'
import { fetchBuffer } from './buffers'

it('gives each type its array', async () => {
  fakeService(() => ({ body: new Uint8Array([1, 0, 0, 0, 2, 0, 0, 0]).buffer }))
  expect(await fetchBuffer({ digest: 'u4', dtype: 'u4', shape: [2] })).toEqual(new Uint32Array([1, 2]))
  expect(await fetchBuffer({ digest: 'u1', dtype: 'u1', shape: [8] })).toHaveLength(8)
  expect(await fetchBuffer({ digest: 'f4', dtype: 'f4', shape: [2] })).toBeInstanceOf(Float32Array)
})

it('asks for nothing where there is nothing', async () => {
  const asked = fakeService(() => new Error('not asked'))
  expect(await fetchBuffer({ digest: 'empty', dtype: 'u1', shape: [0] })).toEqual(new Uint8Array(0))
  expect(asked).toEqual([])
})

it('keeps those that were used last, as many bytes as fit', async () => {
  const asked = fakeService(() => ({ body: new ArrayBuffer(4) }))
  const ref = (n: number) => ({ digest: `many ${n}`, dtype: 'f4', shape: [2_500_000] })
  for (let n = 0; n < 60; n++) await fetchBuffer(ref(n))
  await fetchBuffer(ref(0))
  await fetchBuffer(ref(60))
  expect(asked).toHaveLength(61)
  await fetchBuffer(ref(0))
  expect(asked).toHaveLength(61)
  await fetchBuffer(ref(1))
  expect(asked).toHaveLength(62)
})
