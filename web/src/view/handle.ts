/** A handle in the view for a place: dragged along an axis, in a plane, or freely; with snapping. */
import * as THREE from 'three'
import type { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'
import { TransformControls } from 'three/examples/jsm/controls/TransformControls.js'

export type Place = [number, number, number]

export class Handle {
  readonly root: THREE.Object3D
  private readonly point = new THREE.Object3D()
  private readonly controls: TransformControls
  private moved: ((place: Place, done: boolean) => void) | null = null
  private dragging = false

  constructor(camera: THREE.Camera, canvas: HTMLElement, orbit: OrbitControls, draw: () => void) {
    this.controls = new TransformControls(camera, canvas)
    this.controls.setSize(0.7)
    this.controls.setColors('#c2562c', '#3c8a5f', '#2d7fa3', '#f2c14e')
    this.root = this.controls.getHelper()
    this.controls.addEventListener('change', draw)
    this.controls.addEventListener('dragging-changed', (event) => {
      this.dragging = Boolean(event.value)
      orbit.enabled = !this.dragging
      if (!this.dragging) this.moved?.(this.place(), true)
    })
    this.controls.addEventListener('objectChange', () => this.moved?.(this.place(), false))
    this.root.visible = false
  }

  private place(): Place {
    return this.point.position.toArray().map((part) => Number(part.toPrecision(6))) as Place
  }

  get busy(): boolean {
    return this.dragging
  }

  /** Show the handle at a place and tell of its moves; null hides it. A handle that is being dragged stays where it is. */
  show(place: Place | null, moved: ((place: Place, done: boolean) => void) | null): void {
    this.moved = moved
    if (place && !this.dragging) this.point.position.set(...place)
    if (place && !this.root.visible) this.controls.attach(this.point)
    if (!place && this.root.visible) this.controls.detach()
    this.root.visible = place !== null
    if (place && !this.point.parent) this.root.parent?.add(this.point)
    this.point.updateMatrixWorld()
  }

  /** Snap to steps of a length in m; null moves freely. */
  snap(step: number | null): void {
    this.controls.setTranslationSnap(step)
  }

  dispose(): void {
    this.controls.dispose()
  }
}
