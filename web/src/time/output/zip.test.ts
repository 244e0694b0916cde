import { unzipSync } from 'fflate'
import { expect, it } from 'vitest'
import { ZipFile } from './zip'

it('holds what was put in, packed or not', async () => {
  const zip = new ZipFile()
  zip.add('a.0001.obj', new Uint8Array(5000).fill(7), false)
  zip.add('a.0002.png', new Uint8Array([1, 2, 3]), true)
  const bytes = new Uint8Array(await zip.end().arrayBuffer())
  expect(bytes.length).toBeLessThan(1000)
  const found = unzipSync(bytes)
  expect(Object.keys(found)).toEqual(['a.0001.obj', 'a.0002.png'])
  expect([...found['a.0002.png']!]).toEqual([1, 2, 3])
  expect(found['a.0001.obj']!.length).toBe(5000)
})
