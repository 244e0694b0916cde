import { expect, test } from 'vitest'
import { isSoftware, MeasuredQuality } from './qualities'

test('renderers without a graphics card are known by their names', () => {
  expect(isSoftware('ANGLE (Google, Vulkan 1.3.0 (SwiftShader Device (Subzero)), SwiftShader driver)')).toBe(true)
  expect(isSoftware('llvmpipe (LLVM 15.0.6, 256 bits)')).toBe(true)
  expect(isSoftware('ANGLE (Intel, Mesa Intel(R) UHD Graphics 620)')).toBe(false)
})

test('the quality goes down while frames take too long, and no further than fast', () => {
  const measured = new MeasuredQuality('studio')
  const slow = () => Array.from({ length: 12 }, () => measured.measure(80)).includes(true)
  expect(slow()).toBe(true)
  expect(measured.now).toBe('plain')
  expect(slow()).toBe(true)
  expect(measured.now).toBe('fast')
  expect(slow()).toBe(false)
})

test('one slow frame among quick ones changes nothing', () => {
  const measured = new MeasuredQuality('studio')
  for (let round = 0; round < 60; round++) measured.measure(round % 12 === 3 ? 900 : 12)
  expect(measured.now).toBe('studio')
})
