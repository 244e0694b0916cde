import { describe, expect, it } from 'vitest'
import { useCatalogue } from './useCatalogue'
import { aboutType, convertible, lettersOf } from './attributeTypes'

const made = (more: object) => ({
  about: '',
  shown: 'number' as const,
  parts: '',
  measured: true,
  converts: true,
  ...more,
})

describe('attribute types', () => {
  it('are what is served', () => {
    useCatalogue().catalogue.attribute_types = {
      number: made({}),
      vec2: made({ parts: 'xy', shown: 'vector' }),
      vec3: made({ parts: 'xyz', shown: 'vector' }),
      mat3: made({ shown: 'matrix', converts: false }),
    }
    expect(convertible('number')).toEqual(['vec2', 'vec3'])
    expect(convertible('mat3')).toEqual([])
    expect(lettersOf('color', 'vec3')).toEqual(['r', 'g', 'b'])
    expect(lettersOf('uv', 'vec3')).toEqual(['u', 'v', 'z'])
    expect(lettersOf('speed', 'vec2')).toEqual(['x', 'y'])
    expect(lettersOf('heat', 'number')).toEqual([])
    expect(aboutType('unheard of').measured).toBe(false)
  })
})
