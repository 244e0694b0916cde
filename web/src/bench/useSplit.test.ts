import { beforeEach, expect, it, vi } from 'vitest'
import { ref } from 'vue'

const room = { width: ref(1280), height: ref(800) }
vi.mock('@vueuse/core', () => ({
  useLocalStorage: <T>(_: string, preset: T) => ref(preset),
  useWindowSize: () => room,
}))
const { useSplit } = await import('./useSplit')

const key = (name: string) => ({ key: name, preventDefault() {} }) as KeyboardEvent
beforeEach(() => (room.width.value = 1280))

it('is stepped within its limits', () => {
  const split = useSplit('board', 500, 260, () => room.width.value - 360, 'x', 1)
  split.step(key('ArrowRight'))
  expect(split.size.value).toBe(524)
  for (let n = 0; n < 40; n++) split.step(key('ArrowRight'))
  expect(split.size.value).toBe(920)
})

it('is put away and comes back as it was', () => {
  const split = useSplit('board', 500, 260, () => 900, 'x', 1)
  split.step(key('Enter'))
  expect([split.size.value, split.closed.value]).toEqual([0, true])
  split.toggle()
  expect(split.size.value).toBe(500)
})

it('gives way to a smaller window without forgetting its size', () => {
  const split = useSplit('board', 876, 260, () => room.width.value - 360, 'x', 1)
  split.step(key('ArrowRight'))
  room.width.value = 800
  expect(split.size.value).toBe(440)
  room.width.value = 1400
  expect(split.size.value).toBe(900)
})

it('has more of a larger window, until it is dragged', () => {
  const split = useSplit('board', 496, 260, () => room.width.value - 360, 'x', 1)
  room.width.value = 2560
  expect(split.size.value).toBe(992)
  split.step(key('ArrowLeft'))
  expect(split.size.value).toBe(968)
})

it('grows upwards where it hangs below', () => {
  const split = useSplit('ledger', 200, 34, () => 500, 'y', -1)
  split.step(key('ArrowUp'))
  expect(split.size.value).toBe(224)
})
