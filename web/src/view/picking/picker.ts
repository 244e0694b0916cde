/** What lies under the pointer: rays against a tree over the triangles, which large meshes build beside the page's own work. */
import * as THREE from 'three'
import { MeshBVH } from 'three-mesh-bvh'
import { GenerateMeshBVHWorker } from 'three-mesh-bvh/worker'
import type { MeshData } from '../rendering/meshData'
import { geometryOf } from './geometryOf'
import { PlacedPicker } from './placedPicker'

/** Numbers of what is hit; -1 for kinds that are not there. */
export interface Hit {
  face: number
  point: number
  corner: number
  edge: number
  instance: number
  /** Where on the surface, in m. */
  place: [number, number, number]
}

/** From so many triangles on, a tree takes long enough to be felt. */
const LARGE = 150_000
const OPTIONS = { indirect: true }

export class Picker {
  private mesh: MeshData | null = null
  private tree: MeshBVH | null = null
  private worker: GenerateMeshBVHWorker | null = null
  private building: Promise<void> | null = null
  private readonly placed = new PlacedPicker()

  /** Pick from another mesh; its tree is made when it is first needed. */
  set(mesh: MeshData | null): void {
    this.placed.set(mesh?.instances ?? [])
    if (
      mesh &&
      this.mesh &&
      mesh.position === this.mesh.position &&
      mesh.triangleCorner === this.mesh.triangleCorner &&
      mesh.cornerPoint === this.mesh.cornerPoint
    ) {
      this.mesh = mesh
      return
    }
    this.mesh = mesh
    this.tree = null
    this.building = null
  }

  /** Make the tree; resolves when it is there. */
  ready(): Promise<void> {
    const mesh = this.mesh
    if (!mesh?.triangleFace.length || this.tree) return Promise.resolve()
    if (mesh.triangleFace.length < LARGE) {
      this.tree = new MeshBVH(geometryOf(mesh), OPTIONS)
      return Promise.resolve()
    }
    this.building ??= this.build(mesh)
    return this.building
  }

  private async build(mesh: MeshData): Promise<void> {
    this.worker ??= new GenerateMeshBVHWorker()
    while (this.worker.running) {
      await new Promise((wake) => setTimeout(wake, 50))
      if (mesh !== this.mesh) return
    }
    const tree = await this.worker.generate(geometryOf(mesh), OPTIONS)
    if (this.mesh?.position === mesh.position) this.tree = tree
  }

  /** Return the triangle and the place that a ray hits first; null while the tree of a large mesh is being made. */
  cast(ray: THREE.Ray): { triangle: number; place: THREE.Vector3 } | null {
    void this.ready()
    const hit = this.tree?.raycastFirst(ray, THREE.DoubleSide)
    return hit?.faceIndex == null ? null : { triangle: hit.faceIndex, place: hit.point }
  }

  /** Return the place on a surface, of a mesh or an instance, that a ray hits first. */
  placeOn(ray: THREE.Ray): THREE.Vector3 | null {
    const [own, placed] = [this.cast(ray)?.place, this.placed.pick(ray)?.place]
    if (!own || !placed) return own ?? placed ?? null
    return own.distanceTo(ray.origin) <= placed.distanceTo(ray.origin) ? own : placed
  }

  /** Return the instance that a ray hits, or the face with its nearest point, corner and edge. */
  pick(ray: THREE.Ray): Hit | null {
    const mesh = this.mesh
    const hit = this.cast(ray)
    const placed = this.placed.pick(ray)
    if (placed && !(hit && hit.place.distanceTo(ray.origin) <= placed.place.distanceTo(ray.origin)))
      return { face: -1, corner: -1, point: -1, edge: -1, instance: placed.instance, place: placed.place.toArray() }
    if (!mesh || !hit) return null
    const face = mesh.triangleFace[hit.triangle]!
    const near = nearest(mesh, face, hit.place)
    const own = mesh.own
    return {
      face,
      instance: -1,
      place: hit.place.toArray(),
      corner: near.corner,
      point: own ? own.point[near.point]! : near.point,
      edge: own ? own.edge[near.edge]! : near.edge,
    }
  }

  dispose(): void {
    this.worker?.dispose()
  }
}

/** Find the corner, point and edge of a face that are nearest to a place. */
export function nearest(mesh: MeshData, face: number, place: THREE.Vector3): Pick<Hit, 'corner' | 'point' | 'edge'> {
  const corners = new Set<number>()
  for (let t = 0; t < mesh.triangleFace.length; t++) {
    if (mesh.triangleFace[t] === face) for (let c = 0; c < 3; c++) corners.add(mesh.triangleCorner[t * 3 + c]!)
  }
  const at = (point: number) => new THREE.Vector3().fromArray(mesh.position, point * 3)
  const order = [...corners].sort(
    (a, b) => at(mesh.cornerPoint[a]!).distanceTo(place) - at(mesh.cornerPoint[b]!).distanceTo(place),
  )
  const points = new Set([...corners].map((corner) => mesh.cornerPoint[corner]!))
  let edge = -1
  let best = Infinity
  for (let e = 0; e < mesh.edge.length / 2; e++) {
    const [a, b] = [mesh.edge[e * 2]!, mesh.edge[e * 2 + 1]!]
    if (!points.has(a) || !points.has(b)) continue
    const far = new THREE.Line3(at(a), at(b)).closestPointToPoint(place, true, new THREE.Vector3()).distanceTo(place)
    if (far < best) [edge, best] = [e, far]
  }
  return { corner: order[0]!, point: mesh.cornerPoint[order[0]!]!, edge }
}
