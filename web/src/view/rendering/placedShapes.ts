/** Instances in the picture: each shape is uploaded once and drawn once per matrix; its faces, its lines and its points. */
import * as THREE from 'three'
import { Dots } from './dots'
import { sharedIndex, spread, type MeshData } from './meshData'
import type { Shown, Tint } from './picture'
import { isSamePlaced, type Placed } from './placed'
import { drawAs, surfaceMaterial } from './surface'

/** What the ground's shadow leaves out: lines and points. */
export const THIN = 1

const LINE_VERTEX = /* glsl */ `
  attribute mat4 placed;
  uniform vec3 haze;
  uniform vec2 hazy;
  uniform vec3 ink;
  varying vec3 vColor;
  void main() {
    vec4 place = modelViewMatrix * placed * vec4(position, 1.0);
    vColor = mix(ink, haze, 0.75 * smoothstep(hazy.x, hazy.y, -place.z));
    gl_Position = projectionMatrix * place;
  }`

const LINE_FRAGMENT = /* glsl */ `
  varying vec3 vColor;
  void main() { gl_FragColor = vec4(vColor, 1.0); }`

/** Lines that are drawn once per matrix. */
export function placedLineMaterial(): THREE.ShaderMaterial {
  return new THREE.ShaderMaterial({
    vertexShader: LINE_VERTEX,
    fragmentShader: LINE_FRAGMENT,
    uniforms: {
      ink: { value: new THREE.Color() },
      haze: { value: new THREE.Color() },
      hazy: { value: new THREE.Vector2(1e6, 2e6) },
    },
  })
}

/** The parts of one shape: what of it is shown, each once per matrix. */
interface Parts {
  placed: Placed
  /** The kind whose colours need the corners of triangles apart from each other; null: points are shared. */
  apart: 'corner' | 'face' | null
  faces: THREE.InstancedMesh | null
  wire: THREE.LineSegments
  curves: THREE.LineSegments | null
  dots: Dots
}

export class PlacedShapes extends THREE.Group {
  private readonly plain = surfaceMaterial()
  private readonly toned = surfaceMaterial()
  /** Edges lie over faces, curves stand by themselves. */
  private readonly edge = placedLineMaterial()
  private readonly curve = placedLineMaterial()
  private readonly ink = new THREE.Color()
  private readonly haze = { color: new THREE.Color(), from: 1e6, to: 2e6 }
  private parts: Parts[] = []

  /** The materials of faces, for what is the same for all of them: light, cuts, clay. */
  get materials(): THREE.ShaderMaterial[] {
    return [this.plain, this.toned]
  }

  /** Show other instances, or the same ones in other colours. */
  set(placed: Placed[], tint: Tint | null): void {
    drawAs(this.toned, tint?.as)
    this.toned.uniforms.useTone!.value = 1
    this.toned.uniforms.depth!.value = tint?.depth ?? 1
    const isHere = (part: Parts, at: number) =>
      isSamePlaced(part.placed, placed[at]!) && part.apart === apartOf(tint, at)
    if (placed.length !== this.parts.length || !this.parts.every(isHere)) this.rebuild(placed, tint)
    this.parts.forEach((part, at) => this.tone(part, at, tint))
  }

  private rebuild(placed: Placed[], tint: Tint | null): void {
    this.empty()
    this.parts = placed.map((one, at) => this.make(one, apartOf(tint, at)))
    for (const { faces, wire, curves, dots } of this.parts) {
      for (const part of [faces, wire, curves, dots]) if (part) this.add(part)
      dots.setInk(this.ink)
      dots.setHaze(this.haze.color, this.haze.from, this.haze.to)
    }
  }

  /** Give a shape its colours: of each instance, of its own elements, or none. */
  private tone({ placed, apart, faces, dots }: Parts, at: number, tint: Tint | null): void {
    const own = tint?.placed?.[at] ?? null
    dots.set(
      new THREE.BufferAttribute(placed.mesh.position, 3),
      null,
      tint?.kind === 'point' ? own : null,
      placed.matrix,
    )
    if (!faces) return
    const { geometry } = faces
    const each = tint?.kind === 'instance' ? take(tint.colors, placed.number) : null
    faces.material = each || own ? this.toned : this.plain
    if (each) geometry.setAttribute('tone', new THREE.InstancedBufferAttribute(each, 3))
    else if (own)
      geometry.setAttribute('tone', new THREE.BufferAttribute(apart ? spread(placed.mesh, apart, own, 3) : own, 3))
    else geometry.deleteAttribute('tone')
  }

  private make(placed: Placed, apart: Parts['apart']): Parts {
    const { mesh, matrix } = placed
    const dots = new Dots()
    dots.layers.set(THIN)
    return {
      placed,
      apart,
      faces: mesh.triangleFace.length ? this.faces(mesh, matrix, apart) : null,
      wire: placedLines(mesh.position, mesh.edge, matrix, this.edge),
      curves: mesh.segment.length ? placedLines(mesh.position, mesh.segment, matrix, this.curve) : null,
      dots,
    }
  }

  private faces(mesh: MeshData, matrix: Float32Array, apart: Parts['apart']): THREE.InstancedMesh {
    const geometry = new THREE.BufferGeometry()
    const values = (array: Float32Array) =>
      new THREE.BufferAttribute(apart ? spread(mesh, 'point', array, 3) : array, 3)
    geometry.setAttribute('position', values(mesh.position))
    geometry.setAttribute('normal', values(mesh.normal))
    if (!apart) geometry.setIndex(new THREE.BufferAttribute(sharedIndex(mesh), 1))
    const drawn = new THREE.InstancedMesh(geometry, this.plain, matrix.length / 16)
    drawn.instanceMatrix = new THREE.InstancedBufferAttribute(matrix, 16)
    drawn.frustumCulled = false
    return drawn
  }

  setShown({ faces, wire, points, smooth }: Shown): void {
    for (const part of this.parts) {
      if (part.faces) part.faces.visible = faces
      part.wire.visible = wire
      part.dots.visible = points || !part.faces
    }
    for (const material of this.materials) material.uniforms.flatShade!.value = smooth ? 0 : 1
  }

  setInk(points: THREE.Color, edges: THREE.Color, curves: THREE.Color): void {
    this.ink.copy(points)
    ;(this.edge.uniforms.ink!.value as THREE.Color).copy(edges)
    ;(this.curve.uniforms.ink!.value as THREE.Color).copy(curves)
    for (const { dots } of this.parts) dots.setInk(points)
  }

  setHaze(color: THREE.Color, from: number, to: number): void {
    this.haze.color.copy(color)
    Object.assign(this.haze, { from, to })
    for (const { uniforms } of [this.edge, this.curve]) {
      ;(uniforms.haze!.value as THREE.Color).copy(color)
      ;(uniforms.hazy!.value as THREE.Vector2).set(from, to)
    }
    for (const { dots } of this.parts) dots.setHaze(color, from, to)
  }

  private empty(): void {
    for (const { faces, wire, curves, dots } of this.parts) {
      for (const part of [faces, wire, curves]) part?.geometry.dispose()
      faces?.dispose()
      dots.dispose()
    }
    this.parts = []
    this.clear()
  }

  dispose(): void {
    this.empty()
    for (const material of [...this.materials, this.edge, this.curve]) material.dispose()
  }
}

/** Lines between pairs of points, drawn once per matrix. */
export function placedLines(
  position: Float32Array,
  pairs: Uint32Array,
  matrix: Float32Array,
  material: THREE.ShaderMaterial,
): THREE.LineSegments {
  const geometry = new THREE.InstancedBufferGeometry()
  geometry.setAttribute('position', new THREE.BufferAttribute(position, 3))
  geometry.setAttribute('placed', new THREE.InstancedBufferAttribute(matrix, 16))
  geometry.setIndex(new THREE.BufferAttribute(pairs, 1))
  geometry.instanceCount = matrix.length / 16
  const drawn = new THREE.LineSegments(geometry, material)
  drawn.frustumCulled = false
  drawn.layers.set(THIN)
  return drawn
}

/** Whether the colours of a shape need its triangles apart. */
function apartOf(tint: Tint | null, at: number): Parts['apart'] {
  return tint?.placed?.[at] && (tint.kind === 'corner' || tint.kind === 'face') ? tint.kind : null
}

/** Colours `(N, 3)` of some of all instances. */
function take(colors: Float32Array, numbers: Uint32Array): Float32Array {
  const out = new Float32Array(numbers.length * 3)
  numbers.forEach((number, k) => out.set(colors.subarray(number * 3, number * 3 + 3), k * 3))
  return out
}
