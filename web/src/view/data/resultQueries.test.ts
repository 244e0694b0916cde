import { describe, expect, it } from 'vitest'
import { byValues } from '../../model/values/colorChoice'
import { useView } from '../../stores/useView'
import { queriesFor } from './resultQueries'

const plain = { ...useView() }
const asked = (more: object) => queriesFor({ ...plain, ...more }, 'face').map((query) => `${query.as}: ${query.what}`)

describe('what is asked of a node', () => {
  it('is its shape and a summary, whatever is shown', () => {
    expect(asked({})).toEqual(['summary: summary', 'mesh: mesh'])
    expect(asked({ flat: true })).toEqual(['summary: summary', 'mesh: flat'])
  })

  it('is what is shown besides', () => {
    expect(asked({ color: byValues('point', 'heat') })).toContain('color: attribute')
    expect(asked({ color: { how: 'groups', kind: 'face', name: '', part: '' } })).toContain('color: groups')
    expect(asked({ color: { how: 'checker', kind: 'corner', name: '', part: '' } })).toContain('color: uv')
    expect(asked({ strokes: 'point|normal' })).toContain('strokes: normals')
    expect(asked({ labels: 'heat' })).toContain('labels: attribute')
    expect(asked({ points: 'radius' })).toContain('sizes: attribute')
    expect(asked({ edges: 'kinds' })).toContain('edges: edges')
  })

  it('is nothing that needs no values', () => {
    expect(asked({ labels: 'index', points: 'dots', edges: 'all' })).toHaveLength(2)
    expect(asked({ flat: true, edges: 'kinds', strokes: 'point|normal' })).toHaveLength(2)
  })
})
