/** The 3D scene: draws a mesh with its overlays, and answers what lies under the pointer. */
import * as THREE from 'three'
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import { acceleratedRaycast, computeBoundsTree, disposeBoundsTree } from 'three-mesh-bvh'
import type { Kind } from '../api/looks'
import { goTo, isParallel, lookAlong, setParallel, standpoint, type Direction, type Standpoint } from './cameras'
import { Handle } from './handle'
import { sharedIndex, spread, type MeshData } from './meshData'
import { PlacedShapes } from './placed'
import { surfaceMaterial } from './surface'
import { elementsWithin, type Spot } from './within'

/** Colours are display colours from the style sheet to the screen: nothing converts them. */
THREE.ColorManagement.enabled = false
THREE.BufferGeometry.prototype.computeBoundsTree = computeBoundsTree
THREE.BufferGeometry.prototype.disposeBoundsTree = disposeBoundsTree
THREE.Mesh.prototype.raycast = acceleratedRaycast

export interface Shown {
  faces: boolean
  wire: boolean
  points: boolean
  smooth: boolean
}

export interface Tint {
  kind: Kind
  colors: Float32Array
  /** How much light and shade show on top: less for numbers, so that they match the legend. */
  depth: number
}

export interface Palette {
  clay: THREE.Color
  wire: THREE.Color
  point: THREE.Color
  chosen: THREE.Color
  normal: THREE.Color
}

export interface Hit {
  face: number
  point: number
  corner: number
  edge: number
  /** Where on the surface, in m. */
  place: [number, number, number]
}

export class Scene {
  readonly camera = new THREE.PerspectiveCamera(38, 1, 0.001, 1000)
  readonly controls: OrbitControls
  private readonly renderer: THREE.WebGLRenderer
  private readonly scene = new THREE.Scene()
  private readonly material = surfaceMaterial()
  private readonly surface = new THREE.Mesh(new THREE.BufferGeometry(), this.material)
  private readonly placedMaterial = surfaceMaterial()
  private readonly placed = new PlacedShapes(this.placedMaterial)
  private readonly wire = lines()
  private readonly curves = lines()
  private readonly normals = lines()
  private readonly tintLines = lines()
  private readonly points = new THREE.Points(new THREE.BufferGeometry(), new THREE.PointsMaterial({ size: 4, sizeAttenuation: false }))
  private readonly chosenFaces = new THREE.Mesh(new THREE.BufferGeometry(), new THREE.MeshBasicMaterial({ transparent: true, opacity: 0.55, side: THREE.DoubleSide, depthTest: true, polygonOffset: true, polygonOffsetFactor: -1, polygonOffsetUnits: -1 })) // prettier-ignore
  private readonly chosenPoints = new THREE.Points(new THREE.BufferGeometry(), new THREE.PointsMaterial({ size: 10, sizeAttenuation: false, depthTest: false })) // prettier-ignore
  private readonly chosenEdges = lines()
  private readonly marks = lines()
  private readonly ghosts = new THREE.Group()
  readonly handle: Handle
  private mesh: MeshData | null = null
  private tint: Tint | null = null
  private shown: Shown = { faces: true, wire: false, points: false, smooth: false }
  private pending = false
  onDraw: (() => void) | null = null

  constructor(private readonly canvas: HTMLCanvasElement) {
    this.renderer = new THREE.WebGLRenderer({ canvas, antialias: true, alpha: true, preserveDrawingBuffer: true })
    this.renderer.setPixelRatio(Math.min(window.devicePixelRatio, 2))
    this.renderer.outputColorSpace = THREE.LinearSRGBColorSpace
    for (const part of this.parts()) {
      part.frustumCulled = false
      this.scene.add(part)
    }
    this.controls = new OrbitControls(this.camera, canvas)
    this.controls.addEventListener('change', () => this.draw())
    this.scene.add(this.ghosts)
    this.handle = new Handle(this.camera, canvas, this.controls, () => this.draw())
    this.scene.add(this.handle.root)
    this.camera.position.set(0.9, 1.05, 1.4)
    this.camera.lookAt(0, 0, 0)
  }

  private parts(): THREE.Object3D[] {
    return [this.surface, this.placed, this.wire, this.curves, this.points, this.normals, this.tintLines, this.chosenFaces, this.chosenPoints, this.chosenEdges, this.marks]
  }

  setPalette(palette: Palette): void {
    const clay = palette.clay
    for (const material of [this.material, this.placedMaterial]) material.uniforms.clay!.value.set(clay.r, clay.g, clay.b)
    setColor(this.wire, palette.wire)
    setColor(this.curves, palette.wire)
    setColor(this.normals, palette.normal)
    setColor(this.chosenEdges, palette.chosen)
    setColor(this.marks, palette.chosen)
    ;(this.marks.material as THREE.LineBasicMaterial).depthTest = false
    ;(this.points.material as THREE.PointsMaterial).color.copy(palette.point)
    ;(this.chosenPoints.material as THREE.PointsMaterial).color.copy(palette.chosen)
    ;(this.chosenFaces.material as THREE.MeshBasicMaterial).color.copy(palette.chosen)
    this.draw()
  }

  setMesh(mesh: MeshData | null): void {
    this.mesh = mesh
    this.rebuild()
  }

  setTint(tint: Tint | null): void {
    this.tint = tint
    this.rebuild()
  }

  setShown(shown: Shown): void {
    this.shown = { ...shown }
    this.applyShown()
  }

  private applyShown(): void {
    this.surface.visible = this.placed.visible = this.shown.faces
    this.wire.visible = this.shown.wire
    this.points.visible = this.shown.points || this.tint?.kind === 'point' || !this.mesh?.triangleFace.length
    for (const material of [this.material, this.placedMaterial]) material.uniforms.flatShade!.value = this.shown.smooth ? 0 : 1
    const dots = this.points.material as THREE.PointsMaterial
    const tinted = this.tint?.kind === 'point' && !!this.points.geometry.getAttribute('color') && !this.shown.faces
    if (this.shown.faces && !this.shown.points && this.mesh?.triangleFace.length) this.points.visible = false
    dots.vertexColors = tinted
    dots.needsUpdate = true
    this.draw()
  }

  private rebuild(): void {
    const mesh = this.mesh
    for (const part of [this.surface, this.wire, this.curves, this.points, this.tintLines]) fresh(part)
    this.placed.set(mesh?.instances ?? [])
    if (mesh) {
      this.buildSurface(mesh)
      const position = new THREE.BufferAttribute(mesh.position, 3)
      this.wire.geometry.setAttribute('position', position)
      this.wire.geometry.setIndex(new THREE.BufferAttribute(mesh.edge, 1))
      this.curves.geometry.setAttribute('position', position)
      this.curves.geometry.setIndex(new THREE.BufferAttribute(mesh.segment, 1))
      this.points.geometry.setAttribute('position', position)
      if (this.tint?.kind === 'point') this.points.geometry.setAttribute('color', new THREE.BufferAttribute(this.tint.colors, 3))
      if (this.tint?.kind === 'edge') this.buildEdgeTint(mesh, this.tint.colors)
    }
    this.applyShown()
  }

  private buildSurface(mesh: MeshData): void {
    const geometry = this.surface.geometry
    const tint = this.tint && ['point', 'corner', 'face'].includes(this.tint.kind) ? this.tint : null
    this.material.uniforms.useTone!.value = tint ? 1 : 0
    this.material.uniforms.depth!.value = tint ? tint.depth : 1
    if (!tint || tint.kind === 'point') {
      geometry.setAttribute('position', new THREE.BufferAttribute(mesh.position, 3))
      geometry.setAttribute('normal', new THREE.BufferAttribute(mesh.normal, 3))
      if (tint) geometry.setAttribute('tone', new THREE.BufferAttribute(tint.colors, 3))
      geometry.setIndex(new THREE.BufferAttribute(sharedIndex(mesh), 1))
      return
    }
    geometry.setAttribute('position', new THREE.BufferAttribute(spread(mesh, 'point', mesh.position, 3), 3))
    geometry.setAttribute('normal', new THREE.BufferAttribute(spread(mesh, 'point', mesh.normal, 3), 3))
    geometry.setAttribute('tone', new THREE.BufferAttribute(spread(mesh, tint.kind, tint.colors, 3), 3))
  }

  private buildEdgeTint(mesh: MeshData, colors: Float32Array): void {
    const ends = new Float32Array(mesh.edge.length * 3)
    const tones = new Float32Array(mesh.edge.length * 3)
    for (let i = 0; i < mesh.edge.length; i++) {
      for (let c = 0; c < 3; c++) {
        ends[i * 3 + c] = mesh.position[mesh.edge[i]! * 3 + c]!
        tones[i * 3 + c] = colors[(i >> 1) * 3 + c]!
      }
    }
    this.tintLines.geometry.setAttribute('position', new THREE.BufferAttribute(ends, 3))
    this.tintLines.geometry.setAttribute('color', new THREE.BufferAttribute(tones, 3))
    const material = this.tintLines.material as THREE.LineBasicMaterial
    material.vertexColors = true
    material.needsUpdate = true
  }

  setNormals(ends: Float32Array | null): void {
    fresh(this.normals)
    if (ends) this.normals.geometry.setAttribute('position', new THREE.BufferAttribute(ends, 3))
    this.normals.visible = ends !== null
    this.draw()
  }

  setChosen(kind: Kind, chosen: ReadonlySet<number>): void {
    for (const part of [this.chosenFaces, this.chosenPoints, this.chosenEdges]) fresh(part)
    const mesh = this.mesh
    if (mesh && chosen.size) {
      const position = new THREE.BufferAttribute(mesh.position, 3)
      if (kind === 'face') this.index(this.chosenFaces, position, facesIndex(mesh, chosen))
      if (kind === 'point') this.index(this.chosenPoints, position, within(chosen, mesh.position.length / 3))
      if (kind === 'corner') this.index(this.chosenPoints, position, within(chosen, mesh.cornerPoint.length).map((c) => mesh.cornerPoint[c]!))
      if (kind === 'edge') {
        const ends = within(chosen, mesh.edge.length / 2).flatMap((e) => [mesh.edge[e * 2]!, mesh.edge[e * 2 + 1]!])
        this.index(this.chosenEdges, position, ends)
      }
    }
    this.draw()
  }

  /** Draw other meshes as faint wires. */
  setGhosts(meshes: MeshData[], color: THREE.Color): void {
    for (const part of this.ghosts.children) (part as THREE.LineSegments).geometry.dispose()
    this.ghosts.clear()
    for (const mesh of meshes) {
      const ghost = new THREE.LineSegments(new THREE.BufferGeometry(), new THREE.LineBasicMaterial({ color, transparent: true, opacity: 0.35 }))
      ghost.geometry.setAttribute('position', new THREE.BufferAttribute(mesh.position, 3))
      ghost.geometry.setIndex(new THREE.BufferAttribute(mesh.edge.length ? mesh.edge : mesh.segment, 1))
      ghost.frustumCulled = false
      this.ghosts.add(ghost)
    }
    this.draw()
  }

  /** Elements of a kind inside of an outline on the screen, in -1..1 coordinates. */
  within(kind: Kind, outline: Spot[]): number[] {
    this.camera.updateMatrixWorld()
    return this.mesh ? elementsWithin(this.mesh, kind, this.camera, outline) : []
  }

  /** Leave out all beyond a place along an axis; null shows everything. */
  setCut(axis: 'x' | 'y' | 'z' | null, at: number): void {
    const plane = axis ? new THREE.Vector4(Number(axis === 'x'), Number(axis === 'y'), Number(axis === 'z'), at) : new THREE.Vector4(0, 0, 0, 1)
    for (const material of [this.material, this.placedMaterial]) material.uniforms.cut!.value.copy(plane)
    this.draw()
  }

  /** Mark places with a line through them. */
  setMarks(places: [number, number, number][]): void {
    fresh(this.marks)
    if (places.length) this.marks.geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(places.flat()), 3))
    this.marks.geometry.setIndex(places.slice(1).flatMap((_, i) => [i, i + 1]))
    this.draw()
  }

  /** Whether dragging turns the camera, or is for something else. */
  setTurning(on: boolean): void {
    this.controls.enableRotate = on
  }

  lookAlong(direction: Direction): void {
    lookAlong(this.camera, this.controls, direction)
    this.draw()
  }

  get parallel(): boolean {
    return isParallel(this.camera)
  }

  setParallel(on: boolean): void {
    setParallel(this.camera, this.controls, on)
    this.draw()
  }

  standpoint(name: string): Standpoint {
    return standpoint(this.camera, this.controls, name)
  }

  goTo(kept: Standpoint): void {
    goTo(this.camera, this.controls, kept)
    this.draw()
  }

  private index(part: THREE.Mesh | THREE.Points | THREE.LineSegments, position: THREE.BufferAttribute, index: number[]): void {
    part.geometry.setAttribute('position', position)
    part.geometry.setIndex(index)
  }

  /** Point the camera at a box, keeping the direction it looks in. */
  frame(bounds: [number[], number[]]): void {
    const box = new THREE.Box3(new THREE.Vector3(...(bounds[0] as [number, number, number])), new THREE.Vector3(...(bounds[1] as [number, number, number])))
    const center = box.getCenter(new THREE.Vector3())
    const way = this.camera.position.clone().sub(this.controls.target).normalize()
    const reach = Math.max(this.reachFor(box, center), 1e-6)
    this.camera.updateMatrixWorld()
    this.controls.target.copy(center)
    this.camera.position.copy(center).addScaledVector(way, reach)
    this.camera.near = this.parallel ? reach * 0.5 : reach / 1000
    this.camera.far = this.parallel ? reach * 2 : reach * 100
    this.camera.updateProjectionMatrix()
    this.controls.update()
    this.draw()
  }

  /**
   * How far back the camera must go for every corner of a box to be in the picture, with a margin. Moves `center` so
   * that the picture of the box, which perspective makes larger in front, lies in the middle.
   */
  private reachFor(box: THREE.Box3, center: THREE.Vector3): number {
    const tall = Math.tan((this.camera.fov * Math.PI) / 360) * 0.88
    const wide = tall * this.camera.aspect
    const turn = this.camera.quaternion.clone().invert()
    const corners = Array.from({ length: 8 }, (_, i) => new THREE.Vector3(i & 1 ? box.max.x : box.min.x, i & 2 ? box.max.y : box.min.y, i & 4 ? box.max.z : box.min.z))
    let reach = 0
    for (let round = 0; round < 6; round++) {
      const seen = corners.map((corner) => corner.clone().sub(center).applyQuaternion(turn))
      reach = Math.max(...seen.map(({ x, y, z }) => z + Math.max(Math.abs(y) / tall, Math.abs(x) / wide)))
      const middle = (way: (corner: THREE.Vector3) => number) => {
        const ends = seen.map((corner) => way(corner) / Math.max(reach - corner.z, 1e-9))
        return ((Math.min(...ends) + Math.max(...ends)) / 2) * reach
      }
      center.add(new THREE.Vector3(middle((c) => c.x), middle((c) => c.y), 0).applyQuaternion(this.camera.quaternion))
    }
    return reach
  }

  /** Return the box around the chosen elements, or null. */
  boundsOf(kind: Kind, chosen: ReadonlySet<number>): [number[], number[]] | null {
    const mesh = this.mesh
    if (!mesh || !chosen.size) return null
    const part = kind === 'face' ? this.chosenFaces : kind === 'edge' ? this.chosenEdges : this.chosenPoints
    const index = part.geometry.getIndex()
    if (!index) return null
    const box = new THREE.Box3()
    const place = new THREE.Vector3()
    for (let i = 0; i < index.count; i++) box.expandByPoint(place.fromArray(mesh.position, index.getX(i) * 3))
    box.expandByScalar(Math.max(box.getSize(place).length() * 0.5, 1e-4))
    return [box.min.toArray(), box.max.toArray()]
  }

  /** Return the place on the surface under the pointer (-1..1 coordinates). */
  placeAt(x: number, y: number): [number, number, number] | null {
    return this.cast(x, y)?.point.toArray() ?? null
  }

  private cast(x: number, y: number): THREE.Intersection | null {
    if (!this.mesh?.triangleFace.length) return null
    if (!this.surface.geometry.boundsTree) this.surface.geometry.computeBoundsTree({ indirect: true } as never)
    const caster = new THREE.Raycaster()
    caster.setFromCamera(new THREE.Vector2(x, y), this.camera)
    ;(caster as unknown as { firstHitOnly: boolean }).firstHitOnly = true
    return caster.intersectObject(this.surface)[0] ?? null
  }

  /** Return the face under the pointer (-1..1 coordinates) and its nearest point, corner and edge. */
  pick(x: number, y: number): Hit | null {
    const mesh = this.mesh
    const hit = this.cast(x, y)
    if (!mesh || !hit || hit.faceIndex == null) return null
    const face = mesh.triangleFace[hit.faceIndex]!
    return { face, place: hit.point.toArray(), ...nearest(mesh, face, hit.point) }
  }

  resize(width: number, height: number): void {
    this.renderer.setSize(width, height, false)
    this.camera.aspect = width / Math.max(height, 1)
    this.camera.updateProjectionMatrix()
    this.draw()
  }

  draw(): void {
    if (this.pending) return
    this.pending = true
    requestAnimationFrame(() => {
      this.pending = false
      this.renderer.render(this.scene, this.camera)
      this.canvas.dataset.drawn = String(Number(this.canvas.dataset.drawn ?? 0) + 1)
      this.onDraw?.()
    })
  }

  dispose(): void {
    this.handle.dispose()
    this.controls.dispose()
    for (const part of this.parts()) (part as THREE.Mesh).geometry.dispose()
    this.renderer.dispose()
  }
}

function lines(): THREE.LineSegments {
  return new THREE.LineSegments(new THREE.BufferGeometry(), new THREE.LineBasicMaterial())
}

function setColor(part: THREE.LineSegments, color: THREE.Color): void {
  ;(part.material as THREE.LineBasicMaterial).color.copy(color)
}

function fresh(part: THREE.Mesh | THREE.Points | THREE.LineSegments): void {
  part.geometry.dispose()
  part.geometry = new THREE.BufferGeometry()
  part.geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(0), 3))
}

function within(chosen: ReadonlySet<number>, count: number): number[] {
  return [...chosen].filter((index) => index < count)
}

function facesIndex(mesh: MeshData, chosen: ReadonlySet<number>): number[] {
  const index: number[] = []
  for (let t = 0; t < mesh.triangleFace.length; t++) {
    if (!chosen.has(mesh.triangleFace[t]!)) continue
    for (let c = 0; c < 3; c++) index.push(mesh.cornerPoint[mesh.triangleCorner[t * 3 + c]!]!)
  }
  return index
}

/** Find the corner, point and edge of a face that are nearest to a place. */
function nearest(mesh: MeshData, face: number, place: THREE.Vector3): Omit<Hit, 'face' | 'place'> {
  const corners = new Set<number>()
  for (let t = 0; t < mesh.triangleFace.length; t++) {
    if (mesh.triangleFace[t] === face) for (let c = 0; c < 3; c++) corners.add(mesh.triangleCorner[t * 3 + c]!)
  }
  const at = (point: number) => new THREE.Vector3().fromArray(mesh.position, point * 3)
  const order = [...corners].sort((a, b) => at(mesh.cornerPoint[a]!).distanceTo(place) - at(mesh.cornerPoint[b]!).distanceTo(place))
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
