/** The ground that a shape stands on: lines in real units, and the soft shadow where it is near. */
import * as THREE from 'three'
import { roundLength } from '../camera/scaleBar'
import { FullScreen } from './fullScreen'

const PIXELS = 512
/** How far the ground reaches, and up to which height things throw a shadow, in sizes of the shape. */
const WIDE = 2.2
const HIGH = 0.45

/** How near something is to the ground, seen from below. */
const NEAR = new THREE.ShaderMaterial({
  vertexShader: /* glsl */ `
    varying float high;
    void main() {
      vec4 own = vec4(position, 1.0);
      #ifdef USE_INSTANCING
        own = instanceMatrix * own;
      #endif
      gl_Position = projectionMatrix * modelViewMatrix * own;
      high = gl_Position.z * 0.5 + 0.5;
    }`,
  fragmentShader: /* glsl */ `
    varying float high;
    void main() { gl_FragColor = vec4(0.0, 0.0, 0.0, pow(1.0 - high, 3.0)); }`,
  side: THREE.DoubleSide,
})

/** A blur along one axis; nine samples of a bell. */
const BLUR = /* glsl */ `
  uniform sampler2D picture;
  uniform vec2 way;
  varying vec2 at;
  void main() {
    float sum = 0.0;
    float all = 0.0;
    for (int n = -6; n <= 6; n++) {
      float weight = exp(-float(n * n) / 14.0);
      sum += weight * texture2D(picture, at + way * float(n)).a;
      all += weight;
    }
    gl_FragColor = vec4(0.0, 0.0, 0.0, sum / all);
  }`

const GROUND = /* glsl */ `
  uniform sampler2D shadow;
  uniform vec3 ink;
  uniform float step;
  uniform float size;
  uniform vec2 middle;
  uniform float shade;
  varying vec3 place;
  varying vec2 at;
  float lines(float every) {
    vec2 part = abs(fract(place.xz / every - 0.5) - 0.5) * every;
    vec2 wide = fwidth(place.xz);
    vec2 on = 1.0 - smoothstep(wide * 0.25, wide * 0.95, part);
    return max(on.x, on.y) * (1.0 - smoothstep(0.15, 0.5, max(wide.x, wide.y) / every));
  }
  void main() {
    float far = length(place.xz - middle) / size;
    float fade = 1.0 - smoothstep(0.35, 1.0, far);
    float line = (0.09 * lines(step) + 0.10 * lines(step * 5.0)) * fade;
    float dark = shade * texture2D(shadow, at).a;
    gl_FragColor = vec4(ink * line / max(line + dark, 0.0001), line + dark - line * dark);
  }`

export class Ground extends THREE.Group {
  private readonly material: THREE.ShaderMaterial
  private readonly plane: THREE.Mesh<THREE.BufferGeometry, THREE.ShaderMaterial>
  private readonly targets = [0, 1].map(() => new THREE.WebGLRenderTarget(PIXELS, PIXELS))
  private readonly blur: FullScreen
  private readonly below = new THREE.OrthographicCamera(-1, 1, 1, -1, 0, 1)

  constructor() {
    super()
    this.material = new THREE.ShaderMaterial({
      vertexShader: /* glsl */ `
        varying vec3 place;
        varying vec2 at;
        void main() {
          at = uv;
          place = (modelMatrix * vec4(position, 1.0)).xyz;
          gl_Position = projectionMatrix * viewMatrix * vec4(place, 1.0);
        }`,
      fragmentShader: GROUND,
      uniforms: {
        shadow: { value: this.targets[0]!.texture },
        ink: { value: new THREE.Color() },
        step: { value: 0.1 },
        size: { value: 1 },
        middle: { value: new THREE.Vector2() },
        shade: { value: 0.55 },
      },
      transparent: true,
      depthWrite: false,
    })
    this.plane = new THREE.Mesh(new THREE.PlaneGeometry(2, 2), this.material)
    this.plane.rotation.x = -Math.PI / 2
    this.plane.frustumCulled = false
    this.plane.renderOrder = -1
    this.add(this.plane)
    this.blur = new FullScreen(BLUR, { picture: { value: null }, way: { value: new THREE.Vector2() } })
  }

  setInk(color: THREE.Color): void {
    ;(this.material.uniforms.ink as THREE.IUniform<THREE.Color>).value.copy(color)
  }

  /** Lay the ground under a shape with these bounds, in m, and draw the shadow that it throws. */
  lay(renderer: THREE.WebGLRenderer, scene: THREE.Scene, shapes: THREE.Object3D, bounds: [number[], number[]]): void {
    const [low, high] = bounds
    const size = Math.hypot(...[0, 1, 2].map((axis) => high[axis]! - low[axis]!)) || 1
    const middle = new THREE.Vector2((low[0]! + high[0]!) / 2, (low[2]! + high[2]!) / 2)
    const reach = size * WIDE
    this.plane.position.set(middle.x, low[1]! - size * 0.0015, middle.y)
    this.plane.scale.setScalar(reach)
    const { uniforms } = this.material
    uniforms.step!.value = roundLength(size / 6)
    uniforms.size!.value = reach
    ;(uniforms.middle as THREE.IUniform<THREE.Vector2>).value.copy(middle)
    Object.assign(this.below, { left: -reach, right: reach, top: reach, bottom: -reach, near: 0, far: size * HIGH })
    this.below.position.set(middle.x, low[1]! - size * 0.002, middle.y)
    this.below.rotation.set(Math.PI / 2, 0, 0)
    this.below.updateProjectionMatrix()
    this.below.updateMatrixWorld()
    this.drawShadow(renderer, scene, shapes)
  }

  private drawShadow(renderer: THREE.WebGLRenderer, scene: THREE.Scene, shapes: THREE.Object3D): void {
    const [first, second] = this.targets as [THREE.WebGLRenderTarget, THREE.WebGLRenderTarget]
    const seen = scene.children.map((child) => child.visible)
    const cut = renderer.getScissorTest()
    for (const child of scene.children) child.visible = child === shapes
    scene.overrideMaterial = NEAR
    renderer.setScissorTest(false)
    renderer.setRenderTarget(first)
    renderer.clear()
    renderer.render(scene, this.below)
    scene.overrideMaterial = null
    scene.children.forEach((child, n) => (child.visible = seen[n]!))
    const { picture, way } = this.blur.material.uniforms as Record<string, THREE.IUniform>
    for (const wide of [1, 2.2]) {
      for (const [from, to, x, y] of [
        [first, second, wide, 0],
        [second, first, 0, wide],
      ] as const) {
        picture!.value = from.texture
        ;(way!.value as THREE.Vector2).set(x / PIXELS, y / PIXELS)
        this.blur.draw(renderer, to)
      }
    }
    renderer.setRenderTarget(null)
    renderer.setScissorTest(cut)
  }

  dispose(): void {
    for (const target of this.targets) target.dispose()
    this.plane.geometry.dispose()
    this.material.dispose()
    this.blur.dispose()
  }
}
