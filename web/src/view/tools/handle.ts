/** What is dragged in the view for a parameter: a place, an arrow's tip, a turn, a scale, a box's corner; drawn where it stands. */
import * as THREE from 'three'
import type { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import { TransformControls } from 'three/examples/jsm/controls/TransformControls.js'
import { directionOf, rounded, snapped, STEPS, type Shape, type Triple } from '../../model/values/handleValues'

export interface Held {
  shape: Shape
  value: Triple
  /** Where it stands in its own space: a direction begins there, a box has its middle there. */
  base: Triple
  /** From its own space to the world, row by row. */
  matrix: number[]
  /** How long an arrow is, in m of its own space. */
  reach: number
  /** All places of a list, of which this is one. */
  others: Triple[]
}

type Moved = (value: Triple, done: boolean) => void

export class Handle {
  readonly root: THREE.Object3D
  private readonly frame = new THREE.Group()
  private readonly grip = new THREE.Object3D()
  private readonly arrow = new THREE.ArrowHelper(new THREE.Vector3(0, 1, 0), new THREE.Vector3(), 1, '#b8431b')
  private readonly plane = new THREE.Mesh(
    new THREE.PlaneGeometry(1, 1),
    new THREE.MeshBasicMaterial({
      color: '#b8431b',
      transparent: true,
      opacity: 0.16,
      side: THREE.DoubleSide,
      depthWrite: false,
    }),
  )
  private readonly box = new THREE.Box3Helper(new THREE.Box3(), new THREE.Color('#b8431b'))
  private readonly dots = new THREE.Points(
    new THREE.BufferGeometry(),
    new THREE.PointsMaterial({
      color: '#b8431b',
      size: 9,
      sizeAttenuation: false,
      depthTest: false,
      transparent: true,
    }),
  )
  /** Arrows, rings and squares to drag by: made when there is first something to drag, since that takes its time. */
  private controls: TransformControls | null = null
  private moved: Moved | null = null
  private held: Held | null = null
  private dragging = false
  private paused = false
  private snapping = false

  constructor(
    private readonly camera: THREE.Camera,
    private readonly canvas: HTMLElement,
    private readonly orbit: OrbitControls,
    private readonly draw: () => void,
  ) {
    this.frame.matrixAutoUpdate = false
    this.dots.frustumCulled = false
    this.frame.add(this.grip, this.arrow, this.plane, this.box, this.dots)
    this.root = new THREE.Group()
    this.root.add(this.frame)
    this.root.visible = false
  }

  private made(): TransformControls {
    const controls = new TransformControls(this.camera, this.canvas)
    controls.setSize(0.7)
    controls.setColors('#c2562c', '#3c8a5f', '#2d7fa3', '#f2c14e')
    controls.addEventListener('change', this.draw)
    controls.addEventListener('dragging-changed', (event) => {
      this.dragging = Boolean(event.value)
      this.orbit.enabled = !this.dragging
      if (!this.dragging) this.moved?.(this.value(), true)
    })
    controls.addEventListener('objectChange', () => {
      this.lay()
      this.moved?.(this.value(), false)
    })
    this.root.add(controls.getHelper())
    return controls
  }

  get busy(): boolean {
    return this.dragging
  }

  /** Show the handle and tell of its moves; null hides it. A handle that is being dragged stays where it is. */
  show(held: Held | null, moved: Moved | null): void {
    this.moved = moved
    this.held = held
    if (held && !this.controls) {
      this.controls = this.made()
      this.snap(this.snapping)
    }
    if (held && !this.dragging) this.put(held)
    if (held && !this.controls?.object) this.controls?.attach(this.grip)
    if (!held) this.controls?.detach()
    this.apply()
  }

  /** Hide it for a while, where the picture is not spread over the whole canvas. */
  pause(on: boolean): void {
    this.paused = on
    this.apply()
  }

  snap(on: boolean): void {
    this.snapping = on
    this.controls?.setTranslationSnap(on ? STEPS.place : null)
    this.controls?.setRotationSnap(on ? (STEPS.turn * Math.PI) / 180 : null)
    this.controls?.setScaleSnap(on ? STEPS.scale : null)
  }

  private apply(): void {
    this.root.visible = this.held !== null && !this.paused
    if (this.controls) this.controls.enabled = this.root.visible
    this.draw()
  }

  /** Which place of the list is drawn within a distance of a spot in the camera's picture (-1..1); -1 for none. */
  dotAt(spot: [number, number], within: number): number {
    if (!this.root.visible || !this.held?.others.length) return -1
    const far = this.held.others.map((place) => {
      const at = new THREE.Vector3().fromArray(place).applyMatrix4(this.frame.matrixWorld).project(this.camera)
      return Math.hypot(at.x - spot[0], at.y - spot[1])
    })
    const nearest = far.indexOf(Math.min(...far))
    return far[nearest]! <= within ? nearest : -1
  }

  private put(held: Held): void {
    const { grip } = this
    const matrix = new THREE.Matrix4().set(...(held.matrix as Parameters<THREE.Matrix4['set']>))
    this.frame.matrix.copy(matrix)
    grip.rotation.set(0, 0, 0, 'ZYX')
    grip.scale.set(1, 1, 1)
    grip.position.fromArray(held.base)
    if (held.shape === 'place' || held.shape === 'places') grip.position.fromArray(held.value)
    if (isArrow(held.shape)) grip.position.add(directionOf(held.value).multiplyScalar(held.reach))
    if (held.shape === 'size') grip.position.add(new THREE.Vector3().fromArray(held.value).multiplyScalar(0.5))
    if (held.shape === 'turn')
      grip.rotation.set(...(held.value.map((angle) => (angle * Math.PI) / 180) as Triple), 'ZYX')
    if (held.shape === 'scale') grip.scale.fromArray(held.value)
    this.dots.geometry.dispose()
    this.dots.geometry = new THREE.BufferGeometry().setAttribute(
      'position',
      new THREE.BufferAttribute(new Float32Array(held.others.flat()), 3),
    )
    this.controls?.setMode(held.shape === 'turn' ? 'rotate' : held.shape === 'scale' ? 'scale' : 'translate')
    this.controls?.setSpace('local')
    this.lay()
  }

  /** Lay the arrow, the plane and the box to the grip. */
  private lay(): void {
    const held = this.held
    if (!held) return
    const base = new THREE.Vector3().fromArray(held.base)
    const way = this.grip.position.clone().sub(base)
    this.arrow.visible = isArrow(held.shape)
    this.plane.visible = held.shape === 'plane'
    this.box.visible = held.shape === 'size'
    if (this.arrow.visible && way.length() > 0) {
      this.arrow.position.copy(base)
      this.arrow.setDirection(way.clone().normalize())
      this.arrow.setLength(way.length(), way.length() * 0.16, way.length() * 0.07)
      this.plane.position.copy(base)
      this.plane.quaternion.setFromUnitVectors(new THREE.Vector3(0, 0, 1), way.normalize())
      this.plane.scale.setScalar(held.reach * 3.4)
    }
    const half = new THREE.Vector3(Math.abs(way.x), Math.abs(way.y), Math.abs(way.z))
    this.box.box.set(base.clone().sub(half), base.clone().add(half))
    this.frame.updateMatrixWorld(true)
  }

  private value(): Triple {
    const held = this.held!
    const { position, rotation, scale } = this.grip
    const base = new THREE.Vector3().fromArray(held.base)
    if (held.shape === 'turn')
      return rounded([rotation.x, rotation.y, rotation.z].map((angle) => (angle * 180) / Math.PI))
    if (held.shape === 'scale') return rounded(scale.toArray())
    if (held.shape === 'size')
      return rounded(
        position
          .clone()
          .sub(base)
          .toArray()
          .map((part) => Math.abs(part) * 2),
      )
    if (isArrow(held.shape))
      return this.snapping
        ? snapped(position.clone().sub(base))
        : rounded(position.clone().sub(base).normalize().toArray(), 4)
    return rounded(position.toArray())
  }

  dispose(): void {
    this.controls?.dispose()
    this.arrow.dispose()
    for (const part of [this.plane, this.box, this.dots]) part.geometry.dispose()
  }
}

function isArrow(shape: Shape): boolean {
  return shape === 'direction' || shape === 'plane'
}
