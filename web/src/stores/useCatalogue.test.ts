import { describe, expect, it } from 'vitest'
import type { OperatorState, ParameterState } from '../api/client'
import { openGraph, operator } from '../testing/server'

const published = (release: string, releases: string[]) =>
  operator(`lift@${release}`, { published: { name: 'lift', release, releases } })

describe('the catalogue', () => {
  it('knows operators, and those that hold a graph by what it has', async () => {
    await openGraph({}, [operator('box'), operator('folded', { holds_graph: true })])
    const { useCatalogue } = await import('./useCatalogue')
    const { operatorOf, operator: find } = useCatalogue()
    expect(find('box')!.label).toBe('box')
    expect(operatorOf({ operator: 'nobody' })).toBeUndefined()
    const graph = { dials: { tall: { type: 'number', value: 1 } }, inputs: [], nodes: {} }
    const held = operatorOf({ operator: 'folded', graph } as never)!
    expect(held.parameters.map((entry) => entry.name)).toEqual(['tall'])
  })

  it('says when there is a newer release that was not left', async () => {
    await openGraph({}, [published('1.0.0', ['1.0.0', '1.1.0']), published('1.1.0', ['1.0.0', '1.1.0'])])
    const { useCatalogue } = await import('./useCatalogue')
    const { newer } = useCatalogue()
    expect(newer({ operator: 'lift@1.0.0' })).toBe('1.1.0')
    expect(newer({ operator: 'lift@1.0.0', left: ['1.1.0'] })).toBeNull()
    expect(newer({ operator: 'lift@1.1.0' })).toBeNull()
  })

  it('shows a parameter where its siblings let it', async () => {
    const { isShown } = await import('./useCatalogue')
    const parameter = (name: string, preset: unknown, rule: object | null = null) =>
      ({ name, default: preset, shown_when: rule }) as ParameterState
    const how = parameter('how', 'a')
    const when = parameter('when', 1, { parameter: 'how', value: ['b', 'c'] })
    const deep = parameter('deep', 1, { parameter: 'when', value: 1 })
    const declared = { parameters: [how, when, deep] } as OperatorState
    expect(isShown(how, declared, {})).toBe(true)
    expect(isShown(when, declared, {})).toBe(false)
    expect(isShown(when, declared, { how: 'c' })).toBe(true)
    expect(isShown(deep, declared, { how: 'c' })).toBe(true)
    expect(isShown(deep, declared, { how: 'a' })).toBe(false)
  })
})
