/** The picked elements, marked on the mesh. */
import * as THREE from 'three'
import type { Kind } from '../../api/results'
import type { MeshData } from './meshData'
import { ChosenShapes } from './chosenShapes'
import { fresh, lines, setColor } from './picture'

export class ChosenParts extends THREE.Group {
  private readonly faces = new THREE.Mesh(
    new THREE.BufferGeometry(),
    new THREE.MeshBasicMaterial({
      transparent: true,
      opacity: 0.55,
      side: THREE.DoubleSide,
      polygonOffset: true,
      polygonOffsetFactor: -1,
      polygonOffsetUnits: -1,
    }),
  )
  private readonly points = new THREE.Points(
    new THREE.BufferGeometry(),
    new THREE.PointsMaterial({ size: 10, sizeAttenuation: false, depthTest: false }),
  )
  private readonly edges = lines()
  private readonly shapes = new ChosenShapes(this.faces.material)

  constructor() {
    super()
    for (const part of [this.faces, this.points, this.edges]) {
      part.frustumCulled = false
      this.add(part)
    }
    this.add(this.shapes)
  }

  set(mesh: MeshData | null, kind: Kind, chosen: ReadonlySet<number>): void {
    for (const part of [this.faces, this.points, this.edges]) fresh(part)
    this.shapes.set(kind === 'instance' && mesh ? mesh.instances : [], chosen)
    if (!mesh || !chosen.size) return
    const position = new THREE.BufferAttribute(mesh.position, 3)
    const show = (part: THREE.Mesh | THREE.Points | THREE.LineSegments, index: number[]) => {
      part.geometry.setAttribute('position', position)
      part.geometry.setIndex(index)
    }
    if (kind === 'face') show(this.faces, facesIndex(mesh, chosen))
    if (kind === 'point') show(this.points, drawnAs(chosen, mesh.own?.point, mesh.position.length / 3))
    if (kind === 'corner')
      show(
        this.points,
        drawnAs(chosen, undefined, mesh.cornerPoint.length).map((corner) => mesh.cornerPoint[corner]!),
      )
    if (kind === 'edge')
      show(
        this.edges,
        drawnAs(chosen, mesh.own?.edge, mesh.edge.length / 2).flatMap((e) => [
          mesh.edge[e * 2]!,
          mesh.edge[e * 2 + 1]!,
        ]),
      )
  }

  setColor(color: THREE.Color): void {
    setColor(this.edges, color)
    this.shapes.setColor(color)
    this.points.material.color.copy(color)
    this.faces.material.color.copy(color)
  }

  /** Return the box around what is marked, or null. */
  box(kind: Kind): [number[], number[]] | null {
    if (kind === 'instance') return this.shapes.bounds
    const part = kind === 'face' ? this.faces : kind === 'edge' ? this.edges : this.points
    const index = part.geometry.getIndex()
    if (!index) return null
    const position = part.geometry.getAttribute('position')
    const box = new THREE.Box3()
    const place = new THREE.Vector3()
    for (let i = 0; i < index.count; i++) box.expandByPoint(place.fromBufferAttribute(position, index.getX(i)))
    box.expandByScalar(Math.max(box.getSize(place).length() * 0.5, 1e-4))
    return [box.min.toArray(), box.max.toArray()]
  }

  dispose(): void {
    for (const part of [this.faces, this.points, this.edges]) part.geometry.dispose()
    this.shapes.dispose()
  }
}

/** Numbers as they are drawn: a layout draws an element once for each corner that has it. */
export function drawnAs(chosen: ReadonlySet<number>, own: Uint32Array | undefined, count: number): number[] {
  if (!own) return [...chosen].filter((index) => index < count)
  const found: number[] = []
  for (let i = 0; i < own.length; i++) if (chosen.has(own[i]!)) found.push(i)
  return found
}

export function facesIndex(
  mesh: Pick<MeshData, 'triangleFace' | 'triangleCorner' | 'cornerPoint'>,
  chosen: ReadonlySet<number>,
): number[] {
  const index: number[] = []
  for (let t = 0; t < mesh.triangleFace.length; t++) {
    if (!chosen.has(mesh.triangleFace[t]!)) continue
    for (let c = 0; c < 3; c++) index.push(mesh.cornerPoint[mesh.triangleCorner[t * 3 + c]!]!)
  }
  return index
}
