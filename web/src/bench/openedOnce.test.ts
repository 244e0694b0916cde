import { describe, expect, it } from 'vitest'
import { nextTick, ref } from 'vue'
import { openedOnce } from './openedOnce'

describe('a part that is opened', () => {
  it('is wanted from the first time on, also when it is closed again', async () => {
    const open = ref(false)
    const was = openedOnce(() => open.value)
    expect(was.value).toBe(false)
    open.value = true
    await nextTick()
    expect(was.value).toBe(true)
    open.value = false
    await nextTick()
    expect(was.value).toBe(true)
  })

  it('is wanted at once if it is open from the start', () => {
    expect(openedOnce(() => 'sphere').value).toBe(true)
  })
})
