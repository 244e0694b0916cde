import * as THREE from 'three'
import { expect, it } from 'vitest'
import { Dots } from './dots'

it('is a few pixels wide, or as large as it is told', () => {
  const dots = new Dots()
  const places = new THREE.BufferAttribute(new Float32Array(6), 3)
  dots.set(places, null, null)
  expect(dots.material.uniforms.sized!.value).toBe(0)
  dots.set(places, new Float32Array([0.1, 0.2]), new Float32Array(6))
  expect([dots.material.uniforms.sized!.value, dots.material.uniforms.tinted!.value]).toEqual([1, 1])
  expect(dots.geometry.getAttribute('radius').count).toBe(2)
  dots.set(null, null, null)
  expect(dots.geometry.getAttribute('position').count).toBe(0)
  expect(dots.geometry.hasAttribute('radius')).toBe(false)
  dots.setInk(new THREE.Color('red'))
  expect((dots.material.uniforms.ink!.value as THREE.Color).getHexString()).toBe('ff0000')
  dots.dispose()
})
