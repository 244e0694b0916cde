import { describe, expect, it } from 'vitest'
import { withParts } from './withParts'

const text = (name: string, content: unknown) => new File([JSON.stringify(content)], name)
const read = (file: File) => Promise.resolve(`data:${file.name}`)

describe('files that come together', () => {
  it('puts the bytes that a glTF names inside of it', async () => {
    const scene = text('reef.gltf', { asset: {}, buffers: [{ uri: 'parts/reef%20a.bin' }, { uri: 'missing.bin' }] })
    const made = await withParts([scene, new File(['x'], 'reef a.bin'), new File(['y'], 'skin.png')], read)
    expect(made.map((file) => file.name)).toEqual(['reef.gltf'])
    expect(JSON.parse(await made[0]!.text())).toEqual({
      asset: {},
      buffers: [{ uri: 'data:reef a.bin' }, { uri: 'missing.bin' }],
    })
  })

  it('leaves materials of an OBJ out, and takes every mesh', async () => {
    const files = ['a.obj', 'a.mtl', 'b.ply'].map((name) => new File(['x'], name))
    expect((await withParts(files, read)).map((file) => file.name)).toEqual(['a.obj', 'b.ply'])
  })

  it('hands on what is no glTF after all, and a part that comes alone, to be refused in words', async () => {
    const broken = new File(['{'], 'a.gltf')
    expect(await withParts([broken], read)).toEqual([broken])
    const alone = new File(['x'], 'a.bin')
    expect(await withParts([alone], read)).toEqual([alone])
  })
})
