/** What is asked of a renderer besides drawing: its name, and pictures larger than its canvas. */
import type * as THREE from 'three'
import type { Tile } from '../camera/tiles'

/** Pixels of a tile of a large picture. */
export const TILE = 2048

/** The uv sheet from 0 to 1, drawn behind faces that are laid out on it. */
export const SHEET = [0, 0, 0, 1, 0, 0, 1, 0, 0, 1, 1, 0, 1, 1, 0, 0, 1, 0, 0, 1, 0, 0, 0, 0]

/** The name of what draws: a graphics card, or a program in its place. */
export function nameOf(renderer: Pick<THREE.WebGLRenderer, 'getContext'>): string {
  const gl = renderer.getContext()
  const about = gl.getExtension('WEBGL_debug_renderer_info')
  return String(gl.getParameter(about?.UNMASKED_RENDERER_WEBGL ?? gl.RENDERER))
}

/** Draw tiles of a large picture one after the other; size and pixel ratio of the renderer are as before after it. */
export function drawInTiles(
  renderer: Pick<THREE.WebGLRenderer, 'domElement' | 'getPixelRatio' | 'setPixelRatio' | 'setSize'>,
  camera: THREE.PerspectiveCamera,
  tiles: Tile[],
  [width, height]: [number, number],
  draw: (x: number, y: number) => void,
): void {
  const ratio = renderer.getPixelRatio()
  const before = [renderer.domElement.width / ratio, renderer.domElement.height / ratio] as const
  renderer.setPixelRatio(1)
  for (const { x, y, wide, tall } of tiles) {
    const aspect = camera.aspect
    camera.setViewOffset(width, height, x, y, wide, tall)
    camera.aspect = aspect
    camera.updateProjectionMatrix()
    renderer.setSize(wide, tall, false)
    draw(x, y)
  }
  camera.clearViewOffset()
  renderer.setPixelRatio(ratio)
  renderer.setSize(...before, false)
}
