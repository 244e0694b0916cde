import { expect, it } from 'vitest'
import { SNIPPETS } from './snippets'

it('has a title of its own, a kind and a text for each', () => {
  expect(new Set(SNIPPETS.map((one) => one.title)).size).toBe(SNIPPETS.length)
  for (const { title, each, text } of SNIPPETS) {
    expect(title[0]).toBe(title[0]!.toLowerCase())
    expect(['point', 'face', 'once']).toContain(each)
    expect(text.endsWith('\n')).toBe(true)
    expect(text).not.toContain('\t')
  }
})
