import { describe, expect, it } from 'vitest'
import type { OperatorList } from '../api/client'
import { arrivalsOf } from './arrivals'

const format = (name: string, keeps = 'faces') => ({
  name,
  keeps,
  options: {},
  about: {},
  written: true,
  parts: false,
  tolerance: false,
})
const FORMATS: OperatorList['formats'] = {
  ply: format('PLY', 'everything'),
  obj: format('OBJ'),
  gltf: format('glTF'),
  png: format('PNG'),
}
const text = (name: string, content: unknown) => new File([JSON.stringify(content)], name)
const read = (file: File) => Promise.resolve(`data:${file.name}`)
const names = async (...files: File[]) => (await arrivalsOf(files, FORMATS, read)).map(({ file }) => file.name)
const empty = (name: string) => new File(['x'], name)

describe('files that come in', () => {
  it('puts the bytes that a glTF names inside of it, and says which are not here', async () => {
    const scene = text('reef.gltf', { asset: {}, buffers: [{ uri: 'parts/reef%20a.bin' }, { uri: 'missing.bin' }] })
    const [made, ...more] = await arrivalsOf([scene, empty('reef a.bin')], FORMATS, read)
    expect(more).toEqual([])
    expect(JSON.parse(await made!.file.text())).toEqual({
      asset: {},
      buffers: [{ uri: 'data:reef a.bin' }, { uri: 'missing.bin' }],
    })
    expect(made).toMatchObject({ parts: ['reef a.bin'], missing: ['missing.bin'], asks: true })
  })

  it('puts materials into an OBJ, line by line', async () => {
    const mesh = new File(['mtllib lib\\reef.mtl\r\nmtllib other.mtl\nv 0 0 0'], 'a.obj')
    const [made] = await arrivalsOf([mesh, new File(['newmtl clay\r\nKd 1 0 0'], 'reef.mtl')], FORMATS, read)
    expect(await made!.file.text()).toContain('\n#mtl newmtl clay\n#mtl Kd 1 0 0\n')
    expect(made).toMatchObject({ parts: ['reef.mtl'], missing: ['other.mtl'] })
  })

  it('takes every mesh, and pictures unless materials name them', async () => {
    const materials = new File(['newmtl clay\nmap_Kd -s 1 1 1 maps\\skin.png\n'], 'a.mtl')
    const dropped = ['a.obj', 'b.ply', 'skin.png', 'height.png'].map(empty)
    expect(await names(...dropped, materials)).toEqual(['a.obj', 'b.ply', 'height.png'])
    const scene = new File(['{"images": [{"uri": "maps/sk%20in.png"}]}'], 'a.gltf')
    expect(await names(scene, empty('sk in.png'), empty('sand.png'))).toEqual(['a.gltf', 'sand.png'])
    expect(await names(empty('b.ply'), empty('height.png'))).toEqual(['b.ply', 'height.png'])
    expect(await names(empty('height.png'))).toEqual(['height.png'])
  })

  it('asks where something is left out, missing or unknown, and not else', async () => {
    const files = ['a.ply', 'b.obj', 'c.docx', 'tile.zip'].map(empty)
    const made = await arrivalsOf(files, FORMATS, read)
    expect(made.map(({ asks }) => asks)).toEqual([false, true, true, false])
    expect(made[2]!.format).toBeNull()
    expect(made[3]!.isPackage).toBe(true)
  })

  it('hands on what is no glTF after all, and a part that comes alone, to be refused in words', async () => {
    expect(await names(new File(['{'], 'a.gltf'))).toEqual(['a.gltf'])
    expect(await names(empty('a.bin'))).toEqual(['a.bin'])
  })
})
