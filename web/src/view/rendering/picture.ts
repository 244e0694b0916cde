/** One mesh as it is drawn: surface, placed shapes, edges, curves, points and its colours. */
import * as THREE from 'three'
import type { Kind } from '../../api/results'
import { Dots } from './dots'
import { EdgeLines, type EdgeKinds } from './edgeLines'
import { sharedIndex, spread, type MeshData } from './meshData'
import { isSamePlaced } from './placed'
import { PlacedShapes } from './placedShapes'
import { drawAs, surfaceMaterial } from './surface'

/** How many grains of a material lie along the size of the shape. */
const GRAINS = 120

/** How solid faces are. */
export const VEILS = ['solid', 'see-through', 'x-ray'] as const
export type Veil = (typeof VEILS)[number]

export interface Shown {
  faces: boolean
  wire: boolean
  points: boolean
  smooth: boolean
}

export interface Tint {
  kind: Kind
  /** Display colours, three for each element; for a checker: u, v and nothing. None: the geometry has no such value. */
  colors: Float32Array
  /** Those of the shapes that stand in it; null: this shape has none. */
  placed?: (Float32Array | null)[]
  /** How much light and shade show on top: less for numbers, so that they match the legend. */
  depth: number
  /** Drawn as a checker of uv, or as a material with grain; else the colours as they are. */
  as?: 'checker' | 'material'
}

export interface Palette {
  clay: THREE.Color
  /** Edges over faces; curves, which stand by themselves. */
  wire: THREE.Color
  curve: THREE.Color
  point: THREE.Color
  chosen: THREE.Color
  normal: THREE.Color
  border: THREE.Color
  crease: THREE.Color
  crowded: THREE.Color
  /** What lies behind everything, and what is drawn on the ground. */
  haze: THREE.Color
  ground: THREE.Color
}

/** What a picture shows at one moment; all of it changes together. */
export interface Content {
  mesh: MeshData | null
  tint: Tint | null
  edges: EdgeKinds | null
  /** How large points are drawn, m `(P)`; none: a few pixels. */
  radii: Float32Array | null
}

export const NOTHING: Content = { mesh: null, tint: null, edges: null, radii: null }

export class Picture extends THREE.Group {
  readonly material = surfaceMaterial()
  readonly surface = new THREE.Mesh(new THREE.BufferGeometry(), this.material)
  private readonly placed = new PlacedShapes()
  private readonly wire = lines()
  private readonly curves = lines()
  private readonly tintLines = lines()
  private readonly edgeLines = new EdgeLines()
  private readonly dots = new Dots()
  private content: Content = NOTHING
  private shown: Shown = { faces: true, wire: false, points: false, smooth: false }

  constructor() {
    super()
    for (const part of [this.surface, this.placed, this.wire, this.curves, this.dots, this.tintLines, this.edgeLines]) {
      part.frustumCulled = false
      this.add(part)
    }
  }

  get mesh(): MeshData | null {
    return this.content.mesh
  }

  /** Show a mesh with its colours. Where only colours change, the shape stays as it was uploaded. */
  show(content: Content): void {
    const before = this.content
    this.content = content
    const { mesh, tint, edges } = content
    if (mesh && before.mesh && isSameShape(mesh, before.mesh) && layoutOf(tint) === layoutOf(before.tint))
      this.retint(mesh, tint)
    else this.rebuild(mesh, tint)
    fresh(this.tintLines)
    if (mesh && tint?.kind === 'edge') this.buildEdgeTint(mesh, tint.colors)
    this.edgeLines.set(mesh, edges)
    this.dots.set(
      mesh && new THREE.BufferAttribute(mesh.position, 3),
      content.radii,
      tint?.kind === 'point' && tint.colors.length ? tint.colors : null,
    )
    this.applyShown()
  }

  setShown(shown: Shown): void {
    this.shown = { ...shown }
    this.applyShown()
  }

  /** Light as in a studio, or simple; solid, or seen through. */
  setLook(studio: boolean, veil: Veil): void {
    for (const material of this.materials) {
      material.uniforms.studio!.value = studio ? 1 : 0
      material.uniforms.veil!.value = VEILS.indexOf(veil)
      material.transparent = veil !== 'solid'
      material.depthWrite = veil === 'solid'
    }
  }

  /** How much light and shade lie over the colours: 1 for clay, less for numbers. */
  get depth(): number {
    return this.material.uniforms.depth!.value as number
  }

  setHaze(color: THREE.Color, from: number, to: number): void {
    this.dots.setHaze(color, from, to)
    this.placed.setHaze(color, from, to)
  }

  setPalette(palette: Palette): void {
    for (const material of this.materials)
      (material.uniforms.clay as THREE.IUniform<THREE.Color>).value.set(palette.clay.r, palette.clay.g, palette.clay.b)
    setColor(this.wire, palette.wire)
    setColor(this.curves, palette.curve)
    this.edgeLines.setColors([palette.border, palette.crease, palette.crowded])
    this.dots.setInk(palette.point)
    this.placed.setInk(palette.point, palette.wire, palette.curve)
  }

  /** Leave out all that lies beyond a plane: its normal, and how far along it. */
  setCut(plane: THREE.Vector4): void {
    for (const material of this.materials) (material.uniforms.cut as THREE.IUniform<THREE.Vector4>).value.copy(plane)
  }

  dispose(): void {
    for (const part of [this.surface, this.wire, this.curves, this.tintLines]) part.geometry.dispose()
    this.dots.dispose()
    this.edgeLines.dispose()
    this.placed.dispose()
    this.material.dispose()
  }

  private get materials(): THREE.ShaderMaterial[] {
    return [this.material, ...this.placed.materials]
  }

  private rebuild(mesh: MeshData | null, tint: Tint | null): void {
    for (const part of [this.surface, this.wire, this.curves]) fresh(part)
    if (!mesh) return this.placed.set([], null)
    const geometry = this.surface.geometry
    const position = new THREE.BufferAttribute(mesh.position, 3)
    if (layoutOf(tint) === 'shared') {
      geometry.setAttribute('position', position)
      geometry.setAttribute('normal', new THREE.BufferAttribute(mesh.normal, 3))
      geometry.setIndex(new THREE.BufferAttribute(sharedIndex(mesh), 1))
    } else {
      geometry.setAttribute('position', new THREE.BufferAttribute(spread(mesh, 'point', mesh.position, 3), 3))
      geometry.setAttribute('normal', new THREE.BufferAttribute(spread(mesh, 'point', bytes(mesh.normal), 4), 4, true))
    }
    this.wire.geometry.setAttribute('position', position)
    this.wire.geometry.setIndex(new THREE.BufferAttribute(mesh.edge, 1))
    this.curves.geometry.setAttribute('position', position)
    this.curves.geometry.setIndex(new THREE.BufferAttribute(mesh.segment, 1))
    this.retint(mesh, tint)
  }

  /** Upload other colours for the same shape. */
  private retint(mesh: MeshData, tint: Tint | null): void {
    const onSurface = tint && ['point', 'corner', 'face'].includes(tint.kind) && tint.colors.length ? tint : null
    this.placed.set(mesh.instances, tint)
    const uniforms = this.material.uniforms
    uniforms.useTone!.value = onSurface ? 1 : 0
    uniforms.depth!.value = onSurface ? onSurface.depth : 1
    for (const material of this.materials) material.uniforms.grain!.value = GRAINS / sizeOf(mesh)
    drawAs(this.material, onSurface?.as)
    const geometry = this.surface.geometry
    if (!onSurface) geometry.deleteAttribute('tone')
    else if (onSurface.kind === 'point') geometry.setAttribute('tone', new THREE.BufferAttribute(onSurface.colors, 3))
    else geometry.setAttribute('tone', new THREE.BufferAttribute(spread(mesh, onSurface.kind, onSurface.colors, 3), 3))
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

  private applyShown(): void {
    const { mesh, tint } = this.content
    const { faces, wire, points, smooth } = this.shown
    this.surface.visible = faces
    this.placed.setShown(this.shown)
    this.wire.visible = wire
    /** Points stand for themselves where there are no faces: they have the colours, then. */
    const alone = !mesh?.triangleFace.length
    this.dots.visible = points || alone || (tint?.kind === 'point' && !faces)
    this.material.uniforms.flatShade!.value = smooth ? 0 : 1
    // Faces make room for lines that lie on them; for slivers that is a guess, so only where there are lines.
    for (const material of this.materials)
      material.polygonOffset = wire || !!this.content.edges || tint?.kind === 'edge'
    this.dots.material.uniforms.tinted!.value = tint?.kind === 'point' && (alone || !faces) ? 1 : 0
  }
}

/** Whether points are shared in the graphics memory: colours of corners and faces need them apart. */
function layoutOf(tint: Tint | null): 'shared' | 'apart' {
  return tint?.colors.length && ['corner', 'face'].includes(tint.kind) ? 'apart' : 'shared'
}

/** Arrays of the same content are the same arrays. */
export function isSameShape(a: MeshData, b: MeshData): boolean {
  return (
    a.position === b.position &&
    a.normal === b.normal &&
    a.triangleCorner === b.triangleCorner &&
    a.cornerPoint === b.cornerPoint &&
    a.edge === b.edge &&
    a.segment === b.segment &&
    a.instances.length === b.instances.length &&
    a.instances.every((one, k) => isSamePlaced(one, b.instances[k]!))
  )
}

export function sizeOf(mesh: MeshData): number {
  return Math.hypot(...[0, 1, 2].map((axis) => mesh.bounds[1][axis]! - mesh.bounds[0][axis]!)) || 1
}

/** Unit vectors in a byte per part, and one more so that each begins at a whole word. */
function bytes(normals: Float32Array): Int8Array {
  const out = new Int8Array((normals.length / 3) * 4)
  for (let i = 0; i < normals.length / 3; i++)
    for (let c = 0; c < 3; c++) out[i * 4 + c] = Math.round(normals[i * 3 + c]! * 127)
  return out
}

export function lines(): THREE.LineSegments {
  return new THREE.LineSegments(new THREE.BufferGeometry(), new THREE.LineBasicMaterial())
}

export function setColor(part: THREE.LineSegments, color: THREE.Color): void {
  ;(part.material as THREE.LineBasicMaterial).color.copy(color)
}

/** Give a part an empty geometry, and free the old one. */
export function fresh(part: THREE.Mesh | THREE.Points | THREE.LineSegments): void {
  part.geometry.dispose()
  part.geometry = new THREE.BufferGeometry()
  part.geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(0), 3))
}
