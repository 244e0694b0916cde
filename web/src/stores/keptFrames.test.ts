import { expect, it } from 'vitest'
import type { EvaluationState } from '../api/client'
import { fakeService } from '../testing/fakeService'
import { KeptFrames } from './keptFrames'

const answer = (name: string, numbers: number) =>
  ({ looks: [{ positions: { digest: name, dtype: 'f4', shape: [numbers] } }] }) as unknown as EvaluationState

it('keeps answers by question and frame, and fetches their arrays', () => {
  const asked = fakeService(() => ({ body: new ArrayBuffer(4) }))
  const kept = new KeptFrames()
  kept.put('a', 1, { answer: answer('kept one', 1), whole: true })
  expect(kept.get('a', 1)?.whole).toBe(true)
  expect(kept.get('b', 1)).toBeUndefined()
  expect([...kept.frames('a')]).toEqual([1])
  expect(asked.map((one) => one.path)).toEqual(['/api/buffers/kept one'])
})

it('lets the oldest go when they become too large', () => {
  fakeService(() => ({ body: new ArrayBuffer(4) }))
  const kept = new KeptFrames(100)
  for (let frame = 0; frame < 5; frame++) kept.put('a', frame, { answer: answer(`large ${frame}`, 10), whole: false })
  expect([...kept.frames('a')]).toEqual([3, 4])
  kept.put('b', 0, { answer: answer('large b', 10), whole: false })
  expect([...kept.frames('a')]).toEqual([4])
  expect([...kept.frames('b')]).toEqual([0])
})

it('counts an answer that replaces another one once', () => {
  fakeService(() => ({ body: new ArrayBuffer(4) }))
  const kept = new KeptFrames(100)
  for (let n = 0; n < 9; n++) kept.put('a', 0, { answer: answer(`again ${n}`, 10), whole: n > 7 })
  kept.put('a', 1, { answer: answer('again b', 10), whole: false })
  expect([...kept.frames('a')]).toEqual([0, 1])
})
