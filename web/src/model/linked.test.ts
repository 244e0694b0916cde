import { deepClone } from 'fast-json-patch'
import { describe, expect, it } from 'vitest'
import type { GraphDocument } from './document'
import { attached, copiesOf, detached, unlinked } from './linked'

const leaf = (): GraphDocument => ({ format: 'reticula graph', version: 1, nodes: { up: { operator: 'extrude' } } })

function kept(): GraphDocument {
  return {
    format: 'reticula graph',
    version: 1,
    nodes: {
      a: { operator: 'folded', linked: 'bud' },
      b: { operator: 'folded', linked: 'bud', parameters: { height: 2 } },
      held: {
        operator: 'folded',
        graph: { format: 'reticula graph', version: 1, nodes: { c: { operator: 'folded', linked: 'bud' } } },
      },
    },
    linked: { bud: leaf() },
  }
}

describe('linked graphs', () => {
  it('are in all nodes that name them, and once in what is kept', () => {
    const document = attached(kept())
    expect(document.nodes.a!.graph).toBe(document.nodes.b!.graph)
    expect(document.nodes.held!.graph!.nodes.c!.graph).toBe(document.nodes.a!.graph)
    expect(detached(document)).toEqual(kept())
    expect(copiesOf(document, 'bud')).toBe(3)
  })

  it('are changed for all by a change of one, also of one that was put in anew', () => {
    const document = attached(deepClone(kept()) as GraphDocument)
    document.nodes.b!.graph!.nodes.up!.parameters = { distance: 1 }
    expect(detached(document).linked!.bud!.nodes.up!.parameters).toEqual({ distance: 1 })
    const other = attached(kept())
    other.nodes.b = { ...other.nodes.b!, graph: { ...leaf(), title: 'new' } }
    expect(attached(detached(other)).nodes.a!.graph!.title).toBe('new')
  })

  it('go with the last that names them', () => {
    const { a, held, ...rest } = attached(kept()).nodes
    expect([a, held].every(Boolean)).toBe(true)
    const alone = detached({ ...attached(kept()), nodes: unlinked(rest) })
    expect(alone.linked).toBeUndefined()
    expect(alone.nodes.b!.graph).toEqual(leaf())
  })

  it('that lead nowhere or into themselves are left as they are', () => {
    const document = kept()
    document.linked!.bud!.nodes.again = { operator: 'folded', linked: 'bud' }
    document.nodes.a!.linked = 'gone'
    const made = attached(document)
    expect(made.nodes.a!.graph).toBeUndefined()
    expect(made.nodes.b!.graph!.nodes.again!.graph).toBeUndefined()
  })

  it('change nothing of a document that has none', () => {
    const document = leaf()
    expect(attached(document)).toBe(document)
    expect(detached(document)).toEqual(document)
  })
})
