import { describe, expect, it } from 'vitest'
import type { GraphDocument } from './document'
import { followed, followersOf } from './parameterLinks'

const document: GraphDocument = {
  format: 'reticula graph',
  version: 1,
  nodes: {
    rings: { operator: 'torus', parameters: { radius: 1 } },
    a: {
      operator: 'box',
      parameters: { size: { formula: 'vec3(rings.radius, rings.radius, here.x)' }, where: 'rings.radius > 1' },
    },
    b: { operator: 'script', parameters: { controls: { reach: { formula: 'rings.radius' } } } },
    c: { operator: 'drape', inputs: { rings: ['a'] }, parameters: { distance: { formula: 'rings.radius' } } },
  },
}

describe('ties', () => {
  it('finds every follower once, also in scripts, and leaves inputs of the same name alone', () => {
    expect(followersOf(document).get('rings.radius')).toEqual([
      { node: 'a', parameter: 'size' },
      { node: 'a', parameter: 'where' },
      { node: 'b', parameter: 'controls' },
    ])
    expect(followersOf(document).size).toBe(1)
  })
  it('knows a value that follows another one and nothing else', () => {
    expect(followed({ formula: ' rings.radius ' }, document)).toEqual({ node: 'rings', parameter: 'radius' })
    expect(followed({ formula: 'rings.size.x' }, document)).toEqual({ node: 'rings', parameter: 'size' })
    expect(followed({ formula: 'rings.radius * 2' }, document)).toBeNull()
    expect(followed({ formula: 'gone.radius' }, document)).toBeNull()
    expect(followed(3, document)).toBeNull()
  })
})
