/** Edges told apart by kind: open borders, creases and crowded ones, each in its own width and colour. */
import * as THREE from 'three'
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js'
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js'
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js'
import type { MeshData } from './meshData'

export interface EdgeKinds {
  /** Per edge: 0 nothing special, 1 border, 2 crease, 3 crowded. */
  kinds: Uint8Array
  counts: [number, number, number]
  creasesAre: string
}

/** Widths in pixels. */
const WIDTHS = [3, 2, 4.5]

/** Ends `(2N, 3)` of the edges of one kind. */
export function endsOf(mesh: Pick<MeshData, 'edge' | 'position'>, kinds: Uint8Array, kind: number): Float32Array {
  let count = 0
  for (const one of kinds) if (one === kind) count += 1
  const out = new Float32Array(count * 6)
  let at = 0
  for (let e = 0; e < kinds.length; e++) {
    if (kinds[e] !== kind) continue
    for (let side = 0; side < 2; side++) {
      const point = mesh.edge[e * 2 + side]!
      for (let c = 0; c < 3; c++) out[at++] = mesh.position[point * 3 + c]!
    }
  }
  return out
}

export class EdgeLines extends THREE.Group {
  private readonly materials = WIDTHS.map((linewidth) => new LineMaterial({ linewidth }))

  private drawn: unknown[] = []

  set(mesh: MeshData | null, edges: EdgeKinds | null): void {
    const asked = [mesh?.position, mesh?.edge, edges?.kinds]
    if (asked.every((array, n) => array === this.drawn[n])) return
    this.drawn = asked
    for (const child of this.children as LineSegments2[]) child.geometry.dispose()
    this.clear()
    if (!mesh || !edges || edges.kinds.length !== mesh.edge.length / 2) return
    this.materials.forEach((material, n) => {
      const ends = endsOf(mesh, edges.kinds, n + 1)
      if (!ends.length) return
      const part = new LineSegments2(new LineSegmentsGeometry().setPositions(ends), material)
      part.frustumCulled = false
      this.add(part)
    })
  }

  setColors(colors: THREE.Color[]): void {
    this.materials.forEach((material, n) => material.color.copy(colors[n]!))
  }

  dispose(): void {
    this.set(null, null)
    for (const material of this.materials) material.dispose()
  }
}
