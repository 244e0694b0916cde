import { describe, expect, it } from 'vitest'
import { goneOver, nameOf } from './company'

const mine = { key: 'm', label: 'set size', paths: ['/nodes/a/parameters/size'], revision: 4 as number | null }
const edit = (paths: string[], key = 't', author = 'ines') => ({ revision: 5, label: 'grow', author, key, paths })

describe('edits of others', () => {
  it('that touch the same value are told', () => {
    expect(goneOver([edit(['/nodes/a/parameters/size'])], [mine])).toEqual(['ines’s ‘grow’ went over your ‘set size’.'])
    expect(goneOver([edit(['/nodes/a'], 't', '')], [mine])).toEqual([
      'Somebody else’s ‘grow’ went over your ‘set size’.',
    ])
    expect(goneOver([edit(['/nodes/a/parameters/size/0'])], [mine])).toHaveLength(1)
  })

  it('that touch something else are not', () => {
    expect(goneOver([edit(['/nodes/a/parameters/size_2', '/nodes/b'])], [mine])).toEqual([])
  })

  it('that came before are not: one went over them oneself', () => {
    const same = edit(['/nodes/a/parameters/size'])
    expect(goneOver([same], [{ ...mine, revision: 6 }])).toEqual([])
    expect(goneOver([same], [{ ...mine, revision: null }])).toEqual([])
  })

  it('are those that one did not make', () => {
    expect(goneOver([edit(['/nodes/a/parameters/size'], 'm')], [mine])).toEqual([])
  })
})

it('calls people by their accounts, or by a number', () => {
  expect([nameOf({ name: 'mara' }, 0), nameOf({ name: '' }, 0)]).toEqual(['mara', 'page 2'])
})
