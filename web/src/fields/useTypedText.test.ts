import { expect, it } from 'vitest'
import { nextTick, ref } from 'vue'
import { useTypedText } from './useTypedText'

it('follows the stored value, except while typing', async () => {
  const stored = ref(1)
  const field = useTypedText(() => stored.value, String)
  stored.value = 2
  await nextTick()
  expect(field.text.value).toBe('2')
  field.begin()
  field.text.value = '2.5'
  stored.value = 3
  await nextTick()
  expect(field.text.value).toBe('2.5')
  expect([field.end(), field.end()]).toEqual([true, false])
})

it('goes back to what was stored before the preview', async () => {
  const stored = ref('crest')
  const field = useTypedText(() => stored.value, String)
  field.begin()
  stored.value = 'cres'
  field.begin()
  stored.value = 'cre'
  await nextTick()
  expect(field.back()).toBe('crest')
  expect(field.text.value).toBe('crest')
  expect(field.back()).toBe('cre')
})
