import { expect, it } from 'vitest'
import { nextTick } from 'vue'
import { useSelection } from './useSelection'

it('picks one, adds, takes out, and starts anew with another kind', async () => {
  const selection = useSelection()
  selection.pick(3, false, 'view')
  selection.pick(5, true, 'ledger')
  expect([...selection.chosen.value]).toEqual([3, 5])
  expect(selection.latest.value).toEqual({ index: 5, from: 'ledger' })
  selection.pick(3, true, 'view')
  expect([...selection.chosen.value]).toEqual([5])
  selection.choose([1, 2], true)
  expect([...selection.chosen.value]).toEqual([5, 1, 2])
  selection.choose([], false)
  expect(selection.latest.value).toBeNull()
  selection.pick(3, false, 'view')
  selection.kind.value = 'point'
  await nextTick()
  expect(selection.chosen.value.size).toBe(0)
})
