/** The 3D scene: one picture or two, what lies over them, and the camera. */
import * as THREE from 'three'
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import type { Kind } from '../../api/results'
import {
  isParallel,
  placeAlong,
  setParallel,
  standpoint,
  stepped,
  type Direction,
  type Standpoint,
} from '../camera/cameras'
import { tilesOf } from '../camera/tiles'
import { ChosenParts } from './chosenParts'
import { reachFor } from '../camera/framing'
import { Handle } from '../tools/handle'
import type { MeshData } from './meshData'
import { panesOf, spanOf, spread, toCamera, type Panes } from '../camera/panes'
import { Glide } from '../camera/glide'
import { Picker, type Hit } from '../picking/picker'
import {
  fresh,
  isSameShape,
  lines,
  NOTHING,
  Picture,
  setColor,
  sizeOf,
  type Content,
  type Palette,
  type Shown,
  type Veil,
} from './picture'
import { Ghosts } from './ghosts'
import { setWays, type Way } from './ways'
import { Ground } from './ground'
import { THIN } from './placedShapes'
import { isSoftware, MeasuredQuality, type Quality } from './qualities'
import { drawInTiles, nameOf, SHEET, TILE } from './renderers'
import { Studio } from './studio'
import { elementsWithin, type Spot } from '../picking/within'

/** Colours are display colours from the style sheet to the screen: nothing converts them. */
THREE.ColorManagement.enabled = false

export class Scene {
  readonly camera = new THREE.PerspectiveCamera(38, 1, 0.001, 1000)
  readonly controls: OrbitControls
  readonly handle: Handle
  readonly picker = new Picker()
  private readonly renderer: THREE.WebGLRenderer
  private readonly scene = new THREE.Scene()
  /** What is looked at, and what it is compared with. */
  private readonly own = new Picture()
  private readonly other = new Picture()
  /** All that belongs to the own picture alone. */
  private readonly over = new THREE.Group()
  private readonly strokes = lines()
  private readonly chosen = new ChosenParts()
  private readonly marks = lines()
  private readonly sheet = lines()
  private readonly ghosts = new Ghosts()
  private readonly glide: Glide
  private readonly ground = new Ground()
  private studio: Studio | null = null
  private quality: Quality = 'fast'
  private haveGround = true
  /** The shape whose shadow lies on the ground. */
  private shaded: MeshData | null = null
  readonly measured: MeasuredQuality
  private panes: Panes = { form: 'one', line: 0.5 }
  private pending = false
  private frames = 0
  /** Called when frames take too long, and the machine is given less to draw. */
  onSlow: (() => void) | null = null
  onDraw: (() => void) | null = null

  constructor(private readonly canvas: HTMLCanvasElement) {
    this.renderer = new THREE.WebGLRenderer({ canvas, antialias: true, alpha: true, preserveDrawingBuffer: true })
    // Asking how each shader fared would wait for it, before the first picture; the browser says what does not link.
    this.renderer.debug.checkShaderErrors = false
    this.renderer.setPixelRatio(Math.min(window.devicePixelRatio, 2))
    this.renderer.outputColorSpace = THREE.LinearSRGBColorSpace
    this.renderer.autoClear = false
    this.renderer.setClearColor(0x000000, 0) // else the first frame is black: it learns of `alpha` by drawing
    this.sheet.geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(SHEET), 3))
    for (const part of [this.strokes, this.marks, this.sheet]) part.frustumCulled = false
    this.over.add(this.strokes, this.chosen, this.marks, this.sheet, this.ghosts)
    this.scene.add(this.ground, this.own, this.other, this.over)
    this.scene.fog = new THREE.Fog(0xffffff)
    this.measured = new MeasuredQuality(isSoftware(nameOf(this.renderer)) ? 'fast' : 'studio')
    this.controls = new OrbitControls(this.camera, canvas)
    this.glide = new Glide(this.camera, this.controls)
    this.controls.addEventListener('start', () => this.glide.stop())
    this.controls.addEventListener('change', () => this.draw())
    this.handle = new Handle(this.camera, canvas, this.controls, () => this.draw())
    this.over.add(this.handle.root)
    this.camera.layers.enable(THIN)
    this.camera.position.set(0.9, 1.05, 1.4)
    this.camera.lookAt(0, 0, 0)
  }

  private get mesh(): MeshData | null {
    return this.own.mesh
  }

  /** How much is drawn, whether with the ground, and how solid faces are. */
  setLook(quality: Quality, ground: boolean, veil: Veil): void {
    this.quality = quality
    this.haveGround = ground && quality !== 'fast'
    for (const picture of [this.own, this.other]) picture.setLook(quality !== 'fast', veil)
    this.layGround()
    this.draw()
  }

  private layGround(): void {
    const { mesh } = this
    this.ground.visible = this.haveGround && mesh !== null && mesh.own == null
    // The shadow stays while only colours change.
    if (!mesh || !this.ground.visible || (this.shaded && isSameShape(mesh, this.shaded))) return
    this.shaded = mesh
    this.ground.lay(this.renderer, this.scene, this.own, mesh.bounds)
  }

  setPalette(palette: Palette): void {
    this.ground.setInk(palette.ground)
    ;(this.scene.fog as THREE.Fog).color.copy(palette.haze)
    this.own.setPalette(palette)
    this.other.setPalette(palette)
    this.chosen.setColor(palette.chosen)
    setColor(this.strokes, palette.normal)
    setColor(this.marks, palette.chosen)
    setColor(this.sheet, palette.wire)
    ;(this.marks.material as THREE.LineBasicMaterial).depthTest = false
    this.draw()
  }

  /** Show a result: shape, colours and strokes `(2N, 3)` together. */
  show(content: Content, strokes: Float32Array | null = null): void {
    this.own.show(content)
    this.picker.set(content.mesh)
    fresh(this.strokes)
    if (strokes) this.strokes.geometry.setAttribute('position', new THREE.BufferAttribute(strokes, 3))
    this.sheet.visible = this.mesh?.own != null
    this.ghosts.visible = !this.sheet.visible
    this.pauseHandle()
    this.layGround()
    this.draw()
  }

  /** Handles stand where shapes do, in a picture that fills the canvas. */
  private pauseHandle(): void {
    this.handle.pause(this.panes.form === 'beside' || this.sheet.visible)
  }

  /** Show what the result is compared with, beside it or across a line. */
  showOther(content: Content | null, panes: Panes): void {
    this.other.show(content ?? NOTHING)
    this.setPanes(content ? panes : { ...panes, form: 'one' })
  }

  setPanes(panes: Panes): void {
    this.panes = { ...panes }
    this.pauseHandle()
    this.fit()
    this.draw()
  }

  setShown(shown: Shown): void {
    this.own.setShown(shown)
    this.other.setShown(shown)
    this.draw()
  }

  setChosen(kind: Kind, chosen: ReadonlySet<number>): void {
    this.chosen.set(this.mesh, kind, chosen)
    this.draw()
  }

  /** Draw other meshes as faint wires. */
  setGhosts(meshes: MeshData[], color: THREE.Color): void {
    if (this.ghosts.set(meshes, color)) this.draw()
  }

  /** Leave out all beyond a place along an axis; null shows everything. */
  setCut(axis: 'x' | 'y' | 'z' | null, at: number): void {
    const plane = axis
      ? new THREE.Vector4(Number(axis === 'x'), Number(axis === 'y'), Number(axis === 'z'), at)
      : new THREE.Vector4(0, 0, 0, 1)
    this.own.setCut(plane)
    this.other.setCut(plane)
    this.draw()
  }

  /** Mark ways: a line through the places of each. */
  setMarks(ways: Way[]): void {
    setWays(this.marks, ways)
    this.draw()
  }

  /** Whether dragging with the left button turns the camera, or is for something else; then the right one does. */
  setTurning(on: boolean): void {
    const { ROTATE, DOLLY, PAN } = THREE.MOUSE
    this.controls.mouseButtons = on
      ? { LEFT: ROTATE, MIDDLE: DOLLY, RIGHT: PAN }
      : { LEFT: null, MIDDLE: DOLLY, RIGHT: ROTATE }
  }

  lookAlong(direction: Direction): void {
    this.camera.up.set(0, 1, 0)
    this.glide.finish()
    this.glide.to(placeAlong(this.camera, this.controls, direction), this.controls.target.clone())
  }

  /** Turn around what is looked at, or move along the picture, by angles in radians or shares of the distance; or come nearer by a factor. */
  step(way: { turn?: [number, number]; shift?: [number, number]; nearer?: number }): void {
    const next = stepped(this.camera, this.controls.target, way)
    this.glide.to(next.position, next.target, true)
  }

  get parallel(): boolean {
    return isParallel(this.camera)
  }

  setParallel(on: boolean): void {
    this.glide.finish()
    setParallel(this.camera, this.controls, on)
    this.draw()
  }

  standpoint(name: string): Standpoint {
    this.glide.finish()
    return standpoint(this.camera, this.controls, name)
  }

  goTo(kept: Standpoint): void {
    this.glide.finish()
    setParallel(this.camera, this.controls, kept.parallel)
    this.glide.to(new THREE.Vector3(...kept.position), new THREE.Vector3(...kept.target))
  }

  /** Point the camera at a box, keeping the direction it looks in. */
  frame(bounds: [number[], number[]], atOnce = false): void {
    const box = new THREE.Box3(new THREE.Vector3().fromArray(bounds[0]), new THREE.Vector3().fromArray(bounds[1]))
    const center = box.getCenter(new THREE.Vector3())
    const { position, target } = this.glide.end
    const there = this.camera.clone()
    there.position.copy(position)
    there.lookAt(target)
    const way = position.clone().sub(target).normalize()
    const reach = reachFor(there, box, center)
    this.glide.to(center.clone().addScaledVector(way, reach), center, atOnce)
    this.camera.near = this.parallel ? reach * 0.5 : reach / 1000
    this.camera.far = this.parallel ? reach * 2 : reach * 100
    this.camera.updateProjectionMatrix()
    this.draw()
  }

  /** Return the box around the chosen elements, or null. */
  boundsOf(kind: Kind): [number[], number[]] | null {
    return this.chosen.box(kind)
  }

  /** Elements of a kind inside of an outline on the canvas. */
  within(kind: Kind, outline: Spot[]): number[] {
    this.camera.updateMatrixWorld()
    return this.mesh
      ? elementsWithin(
          this.mesh,
          kind,
          this.camera,
          outline.map((spot) => spread(this.panes, spot)),
        )
      : []
  }

  /** Which place of the held list is drawn at a spot on the canvas; -1 for none. */
  dotAt(spot: Spot): number {
    const at = toCamera(this.panes, spot)
    return at ? this.handle.dotAt(at, 0.035) : -1
  }

  private ray(spot: Spot): THREE.Ray | null {
    const at = toCamera(this.panes, spot)
    if (!at) return null
    const caster = new THREE.Raycaster()
    caster.setFromCamera(new THREE.Vector2(...at), this.camera)
    return caster.ray
  }

  /** Return the place on the surface under a spot on the canvas. */
  placeAt(spot: Spot): [number, number, number] | null {
    const ray = this.ray(spot)
    return ray ? (this.picker.placeOn(ray)?.toArray() ?? null) : null
  }

  /** Return the place on the ground (y = 0) under a spot on the canvas. */
  groundAt(spot: Spot): [number, number, number] | null {
    const ground = new THREE.Plane(new THREE.Vector3(0, 1, 0))
    return this.ray(spot)?.intersectPlane(ground, new THREE.Vector3())?.toArray() ?? null
  }

  /** Return the face under a spot on the canvas and its nearest point, corner and edge; or the instance. */
  async pick(spot: Spot): Promise<Hit | null> {
    const ray = this.ray(spot)
    if (!ray) return null
    await this.picker.ready()
    return this.picker.pick(ray)
  }

  resize(width: number, height: number): void {
    const now = this.renderer.getSize(new THREE.Vector2())
    if (now.x === width && now.y === height) return
    this.renderer.setSize(width, height, false)
    this.fit()
    this.draw()
  }

  /** The camera's picture fills its span of the canvas. */
  private fit(): void {
    const { width, height } = this.renderer.getSize(new THREE.Vector2())
    this.camera.aspect = (width * spanOf(this.panes).width) / Math.max(height, 1)
    this.camera.updateProjectionMatrix()
  }

  draw(): void {
    if (this.pending) return
    this.pending = true
    requestAnimationFrame(() => {
      this.pending = false
      const begun = performance.now()
      this.render()
      if (++this.frames % 4 === 0 && this.quality === this.measured.now && this.quality !== 'fast') this.measure(begun)
      this.canvas.dataset.drawn = String(Number(this.canvas.dataset.drawn ?? 0) + 1)
      this.onDraw?.()
    })
  }

  /** Wait until the frame is drawn, to know how long it took. */
  private measure(begun: number): void {
    const gl = this.renderer.getContext()
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4))
    if (this.measured.measure(performance.now() - begun)) this.onSlow?.()
  }

  /** Draw a picture of any size in tiles, and hand each to `put` with its place in pixels. */
  still(width: number, height: number, put: (tile: HTMLCanvasElement, x: number, y: number) => void): void {
    this.camera.aspect = (width * spanOf(this.panes).width) / height
    const most = this.panes.form === 'one' ? TILE : Infinity
    drawInTiles(this.renderer, this.camera, tilesOf(width, height, most), [width, height], (x, y) => {
      this.render()
      put(this.canvas, x, y)
    })
    this.fit()
    this.render()
  }

  private render(): void {
    const size = this.mesh ? sizeOf(this.mesh) : 1
    const far = this.camera.position.distanceTo(this.controls.target)
    const fog = this.scene.fog as THREE.Fog
    Object.assign(fog, { near: far, far: far + 2.5 * size })
    for (const picture of [this.own, this.other]) picture.setHaze(fog.color, fog.near, fog.far)
    const { width, height } = this.renderer.getSize(new THREE.Vector2())
    const { other, own } = panesOf(this.panes)
    this.renderer.setScissorTest(false)
    this.renderer.clear()
    this.renderer.setScissorTest(other !== null)
    for (const [pane, picture] of [
      [other, this.other],
      [own, this.own],
    ] as const) {
      if (!pane) continue
      const span = this.panes.form === 'beside' ? pane : { left: 0, width: 1 }
      this.own.visible = picture === this.own
      this.other.visible = picture === this.other
      this.over.visible = picture === this.own
      this.renderer.setViewport(span.left * width, 0, span.width * width, height)
      this.renderer.setScissor(pane.left * width, 0, pane.width * width, height)
      if (this.quality === 'studio')
        (this.studio ??= new Studio()).render(this.renderer, this.scene, this.camera, size, picture.depth)
      else this.renderer.render(this.scene, this.camera)
    }
  }

  dispose(): void {
    this.glide.stop()
    this.studio?.dispose()
    this.ground.dispose()
    this.handle.dispose()
    this.controls.dispose()
    this.picker.dispose()
    this.own.dispose()
    this.other.dispose()
    this.chosen.dispose()
    this.ghosts.dispose()
    this.renderer.dispose()
  }
}
