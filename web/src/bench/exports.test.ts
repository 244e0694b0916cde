import { describe, expect, it } from 'vitest'
import { exportAddress, optionsOf } from './exports'

describe('a result as a file', () => {
  it('is asked for with all that the format is told', () => {
    const address = exportAddress('g1', {
      node: 'tile:rim & co',
      format: 'glb',
      options: { values: 'plain', instances: 'arrays' },
      level: 'a/b',
      frame: 12.5,
    })
    const asked = new URL(address, 'http://here').searchParams
    expect(address.startsWith('/api/graphs/g1/export?')).toBe(true)
    expect(Object.fromEntries(asked)).toEqual({
      node: 'tile:rim & co',
      format: 'glb',
      options: 'values:plain,instances:arrays',
      level: 'a/b',
      frame: '12.5',
    })
  })

  it('takes the usual word where none, or one that is gone, was chosen', () => {
    const known = { encoding: ['binary', 'ascii'] }
    expect(optionsOf(known, {})[0]!.value).toBe('binary')
    expect(optionsOf(known, { encoding: 'ascii' })[0]!.value).toBe('ascii')
    expect(optionsOf(known, { encoding: 'utf-7' })[0]!.value).toBe('binary')
  })
})
