/** Moves a camera from one standpoint to another in a moment, so that one sees where one went. */
import * as THREE from 'three'
import type { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js'

const LASTS_MS = 260

/** Ease in and out: 0 to 1 with a slope of 0 at both ends (Hermite, as GLSL's smoothstep). */
export const eased = (share: number): number => share * share * (3 - 2 * share)

export class Glide {
  private running = 0
  private goal: { position: THREE.Vector3; target: THREE.Vector3 } | null = null

  constructor(
    private readonly camera: THREE.PerspectiveCamera,
    private readonly controls: OrbitControls,
    private readonly now: () => number = () => performance.now(),
    private readonly next: (frame: () => void) => void = (frame) => void requestAnimationFrame(frame),
  ) {}

  /** Go to a position and a target, in m; around the target, so that the shape stays in sight. */
  to(position: THREE.Vector3, target: THREE.Vector3, atOnce = false): void {
    const run = ++this.running
    this.goal = { position: position.clone(), target: target.clone() }
    const from = { target: this.controls.target.clone(), arm: this.camera.position.clone().sub(this.controls.target) }
    const arm = position.clone().sub(target)
    const begun = this.now()
    const frame = () => {
      if (run !== this.running) return
      const share = atOnce ? 1 : Math.min((this.now() - begun) / LASTS_MS, 1)
      const part = eased(share)
      const length = from.arm.length() * (1 - part) + arm.length() * part
      const way = from.arm.clone().normalize().lerp(arm.clone().normalize(), part)
      if (share >= 1 || way.lengthSq() < 1e-6) way.copy(arm)
      this.controls.target.lerpVectors(from.target, target, part)
      this.camera.position.copy(this.controls.target).addScaledVector(way.normalize(), length)
      this.controls.update()
      if (share < 1) this.next(frame)
      else this.goal = null
    }
    frame()
  }

  /** Whoever takes hold of the camera ends a glide. */
  stop(): void {
    this.running += 1
    this.goal = null
  }

  /** Be where one is going to. */
  finish(): void {
    if (this.goal) this.to(this.goal.position, this.goal.target, true)
  }

  /** Where the camera stands and looks once it is there. */
  get end(): { position: THREE.Vector3; target: THREE.Vector3 } {
    return this.goal ?? { position: this.camera.position, target: this.controls.target }
  }
}
