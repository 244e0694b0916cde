import * as THREE from 'three'
import { expect, test } from 'vitest'
import { drawInTiles, nameOf } from './renderers'

test('tiles are drawn one after the other, and the renderer is as it was', () => {
  const sizes: number[][] = []
  const renderer = {
    domElement: { width: 200, height: 100 } as HTMLCanvasElement,
    getPixelRatio: () => 2,
    setPixelRatio: () => {},
    setSize: (wide: number, tall: number) => void sizes.push([wide, tall]),
  }
  const camera = new THREE.PerspectiveCamera(38, 2, 0.1, 10)
  const tiles = [
    { x: 0, y: 0, wide: 60, tall: 50 },
    { x: 60, y: 0, wide: 40, tall: 50 },
  ]
  const drawn: number[][] = []
  drawInTiles(renderer, camera, tiles, [100, 50], (x) => drawn.push([x, camera.view!.width, camera.aspect]))
  expect(drawn).toEqual([
    [0, 60, 2],
    [60, 40, 2],
  ])
  expect(sizes).toEqual([
    [60, 50],
    [40, 50],
    [100, 50],
  ])
  expect(camera.view?.enabled).toBe(false)
})

test('a renderer says its name, unmasked where it may', () => {
  const gl = (about: object | null) => ({
    RENDERER: 1,
    getExtension: () => about,
    getParameter: (what: number) => (what === 1 ? 'WebKit WebGL' : 'llvmpipe'),
  })
  expect(nameOf({ getContext: () => gl({ UNMASKED_RENDERER_WEBGL: 2 }) } as never)).toBe('llvmpipe')
  expect(nameOf({ getContext: () => gl(null) } as never)).toBe('WebKit WebGL')
})
