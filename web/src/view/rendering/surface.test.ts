import { expect, it } from 'vitest'
import { drawAs, surfaceMaterial } from './surface'

it('builds another program only when the way of drawing changes', () => {
  const material = surfaceMaterial()
  const version = () => material.version
  const before = version()
  drawAs(material, undefined)
  expect(version()).toBe(before)
  drawAs(material, 'checker')
  expect(material.defines).toEqual({ CHECKER: '' })
  drawAs(material, 'checker')
  expect(version()).toBe(before + 1)
  drawAs(material, 'material')
  expect(material.defines).toEqual({ GRAIN: '' })
})

it('has a value for every uniform that its code names', () => {
  const { fragmentShader, vertexShader, uniforms } = surfaceMaterial()
  const named = [...(vertexShader + fragmentShader).matchAll(/uniform \w+ (\w+);/g)].map((found) => found[1]!)
  expect(Object.keys(uniforms).sort()).toEqual(named.sort())
})
