import { expect, it } from 'vitest'
import { nextTick } from 'vue'
import { useCaret } from './useCaret'

const area = () => {
  const made = { selectionStart: 4, range: [0, 0], setSelectionRange: (a: number, b: number) => (made.range = [a, b]) }
  return made
}

it('follows the caret and moves it once the text has changed', async () => {
  const caret = useCaret()
  const target = area()
  expect(caret.focused.value).toBe(false)
  caret.listeners.focus({ target } as never)
  expect([caret.at.value, caret.focused.value]).toEqual([4, true])
  target.selectionStart = 7
  caret.listeners.keyup({ target } as never)
  expect(caret.at.value).toBe(7)
  caret.move(2)
  expect(target.range).toEqual([0, 0])
  await nextTick()
  expect(target.range).toEqual([2, 2])
})
