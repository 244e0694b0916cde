/** Small pictures of many shapes: one renderer draws them one after the other, all from the same side, and copies each out. */
import * as THREE from 'three'
import { keepArray } from '../api/buffers'
import type { MeshLook } from '../api/results'
import { reachFor } from '../view/camera/framing'
import { fetchMesh, type MeshData } from '../view/rendering/meshData'
import { Picture, type Palette } from '../view/rendering/picture'
import { THIN } from '../view/rendering/placedShapes'

/** Shapes that are kept, the ones used last. */
const MOST_KEPT = 400
const FIELD_OF_VIEW = 32
const BUDGET_MS = 12

/** Read the file that draws a variant. */
export async function meshOf(file: ArrayBuffer): Promise<MeshData> {
  const bytes = new Uint8Array(file)
  const end = bytes.indexOf(10)
  const head = JSON.parse(new TextDecoder().decode(bytes.subarray(0, end))) as {
    look: MeshLook
    arrays: [digest: string, size: number][]
  }
  let at = end + 1
  for (const [digest, size] of head.arrays) keepArray(digest, file.slice(at, (at += size)))
  return fetchMesh(head.look)
}

export interface Framing {
  /** Angles of the eye around the shape, rad. */
  turn: number
  tilt: number
  /** How much nearer than it takes to show all of it. */
  zoom: number
}

export const FIRST: Framing = { turn: 0.57, tilt: 0.62, zoom: 1 }

export class Proofs {
  private readonly renderer: THREE.WebGLRenderer
  private readonly scene = new THREE.Scene()
  private readonly camera = new THREE.PerspectiveCamera(FIELD_OF_VIEW, 1, 0.001, 1000)
  private readonly picture = new Picture()
  private readonly meshes = new Map<string, Promise<MeshData>>()
  /** The canvases that are in sight, and those of them that are to be drawn. */
  private readonly held = new Map<HTMLCanvasElement, string>()
  private readonly wanted = new Map<HTMLCanvasElement, string>()
  private drawing = false
  /** The box that all shapes lie in that came so far. */
  private readonly all = new THREE.Box3()
  framing: Framing = FIRST
  /** Whether all are drawn at one scale, so that a larger one looks larger. */
  oneScale = true

  constructor(private readonly fetch: (key: string) => Promise<ArrayBuffer>) {
    this.renderer = new THREE.WebGLRenderer({ antialias: true, alpha: true })
    this.renderer.outputColorSpace = THREE.LinearSRGBColorSpace
    this.renderer.setClearColor(0x000000, 0)
    this.picture.setShown({ faces: true, wire: false, points: false, smooth: false })
    this.picture.setLook(true, 'solid')
    this.scene.add(this.picture)
    this.camera.layers.enable(THIN)
  }

  setPalette(palette: Palette): void {
    this.picture.setPalette(palette)
  }

  /** Draw the shape of a key into a canvas, soon and whenever all are drawn again, until it is let go. */
  hold(canvas: HTMLCanvasElement, key: string): void {
    this.held.set(canvas, key)
    this.wanted.set(canvas, key)
    void this.work()
  }

  letGo(canvas: HTMLCanvasElement): void {
    this.held.delete(canvas)
    this.wanted.delete(canvas)
  }

  redraw(): void {
    for (const [canvas, key] of this.held) this.wanted.set(canvas, key)
    void this.work()
  }

  /** As many pictures per frame as leave the page alive. */
  private async work(): Promise<void> {
    if (this.drawing) return
    this.drawing = true
    try {
      let begun = performance.now()
      for (let next = this.wanted.entries().next(); !next.done; next = this.wanted.entries().next()) {
        const [canvas, key] = next.value
        const mesh = await this.mesh(key).catch(() => null)
        if (this.wanted.get(canvas) !== key) continue
        this.wanted.delete(canvas)
        if (mesh) this.put(canvas, mesh)
        canvas.dataset.drawn = mesh ? key : ''
        if (performance.now() - begun < BUDGET_MS) continue
        await new Promise(requestAnimationFrame)
        begun = performance.now()
      }
    } finally {
      this.drawing = false
    }
  }

  private mesh(key: string): Promise<MeshData> {
    const there = this.meshes.get(key)
    this.meshes.delete(key)
    const mesh =
      there ??
      this.fetch(key)
        .then(meshOf)
        .then((made) => this.grown(made))
    this.meshes.set(key, mesh)
    mesh.catch(() => this.meshes.delete(key))
    for (const oldest of this.meshes.keys()) {
      if (this.meshes.size <= MOST_KEPT) break
      this.meshes.delete(oldest)
    }
    return mesh
  }

  private grown(mesh: MeshData): MeshData {
    const box = boxOf(mesh)
    if (box.isEmpty() || this.all.containsBox(box)) return mesh
    const first = this.all.isEmpty()
    this.all.union(box)
    if (!first && this.oneScale) this.redraw()
    return mesh
  }

  /** Begin with other shapes. */
  reset(): void {
    this.meshes.clear()
    this.held.clear()
    this.wanted.clear()
    this.all.makeEmpty()
  }

  private put(canvas: HTMLCanvasElement, mesh: MeshData): void {
    const scale = Math.min(window.devicePixelRatio, 2)
    const [width, height] = [Math.round(canvas.clientWidth * scale), Math.round(canvas.clientHeight * scale)]
    if (!width || !height) return
    this.picture.show({ mesh, tint: null, edges: null, radii: null })
    this.renderer.setSize(width, height, false)
    this.camera.aspect = width / height
    this.stand(mesh)
    this.renderer.render(this.scene, this.camera)
    canvas.width = width
    canvas.height = height
    canvas.getContext('2d')!.drawImage(this.renderer.domElement, 0, 0)
  }

  private stand(mesh: MeshData): void {
    const { turn, tilt, zoom } = this.framing
    const own = boxOf(mesh)
    const box = this.oneScale && !this.all.isEmpty() ? this.all : own
    if (box.isEmpty()) return
    const way = new THREE.Vector3(Math.sin(turn) * Math.cos(tilt), Math.sin(tilt), Math.cos(turn) * Math.cos(tilt))
    const center = box.getCenter(new THREE.Vector3())
    this.camera.position.copy(center).add(way)
    this.camera.lookAt(center)
    const reach = reachFor(this.camera, box, center) / zoom
    this.camera.position.copy(center).addScaledVector(way, reach)
    const size = box.getSize(new THREE.Vector3()).length()
    this.camera.near = Math.max(reach - 2 * size, reach / 1000)
    this.camera.far = reach + 2 * size
    this.camera.updateProjectionMatrix()
    this.picture.setHaze(new THREE.Color(), this.camera.far * 10, this.camera.far * 20)
  }

  dispose(): void {
    this.reset()
    this.picture.dispose()
    this.renderer.dispose()
  }
}

function boxOf(mesh: MeshData): THREE.Box3 {
  const [low, high] = mesh.bounds
  return new THREE.Box3(new THREE.Vector3().fromArray(low), new THREE.Vector3().fromArray(high))
}
