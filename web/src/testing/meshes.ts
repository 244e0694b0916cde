/** A square of two triangles, and a triangle that hangs on it, as the page has meshes. */
import type { MeshData } from '../view/rendering/meshData'

export const square = (): MeshData => ({
  position: new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 2, 0, 0]),
  normal: new Float32Array(15).fill(0),
  cornerPoint: new Uint32Array([0, 1, 2, 3, 1, 4, 2]),
  triangleCorner: new Uint32Array([0, 1, 2, 0, 2, 3, 4, 5, 6]),
  triangleFace: new Uint32Array([0, 0, 1]),
  edge: new Uint32Array([0, 1, 1, 2, 2, 3, 0, 3, 1, 4, 2, 4]),
  segment: new Uint32Array(0),
  loosePoint: new Uint32Array(0),
  instances: [],
  bounds: [
    [0, 0, 0],
    [2, 1, 0],
  ],
  own: null,
})
