/** Small meshes, as the page has them. */
import type { MeshData } from '../view/rendering/meshData'

type Faces = Pick<MeshData, 'position' | 'cornerPoint' | 'triangleCorner' | 'triangleFace' | 'edge'>

/** Faces alone, in a box of 2 by 1: no curves, loose points or instances; normals are 0 unless given. */
export const meshOf = (given: Faces & Partial<MeshData>): MeshData => ({
  normal: new Float32Array(given.position.length),
  segment: new Uint32Array(0),
  loosePoint: new Uint32Array(0),
  instances: [],
  bounds: [
    [0, 0, 0],
    [2, 1, 0],
  ],
  own: null,
  ...given,
})

/** A square of two triangles, and a triangle that hangs on it. */
export const square = (): MeshData =>
  meshOf({
    position: new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 2, 0, 0]),
    cornerPoint: new Uint32Array([0, 1, 2, 3, 1, 4, 2]),
    triangleCorner: new Uint32Array([0, 1, 2, 0, 2, 3, 4, 5, 6]),
    triangleFace: new Uint32Array([0, 0, 1]),
    edge: new Uint32Array([0, 1, 1, 2, 2, 3, 0, 3, 1, 4, 2, 4]),
  })
