/** Points as round dots: a few pixels wide, or as large as an attribute says, in m. */
import * as THREE from 'three'

const VERTEX = /* glsl */ `
  attribute vec3 color;
  attribute float radius;
  #ifdef PLACED
    attribute mat4 placed;
  #endif
  uniform vec3 ink;
  uniform float tinted;
  uniform float sized;
  uniform float pixels;
  uniform float tall;
  uniform vec3 haze;
  uniform vec2 hazy;
  varying vec3 vColor;
  void main() {
    vec4 own = vec4(position, 1.0);
    #ifdef PLACED
      own = placed * own;
    #endif
    vec4 place = modelViewMatrix * own;
    vColor = mix(mix(ink, color, tinted), haze, 0.75 * smoothstep(hazy.x, hazy.y, -place.z));
    gl_Position = projectionMatrix * place;
    // A radius in m covers this many pixels at its depth: half the picture is 1 in clip space.
    float real = radius * projectionMatrix[1][1] / gl_Position.w * tall;
    gl_PointSize = max(mix(pixels, real, sized), 1.5);
  }`

const FRAGMENT = /* glsl */ `
  varying vec3 vColor;
  void main() {
    vec2 from = gl_PointCoord * 2.0 - 1.0;
    float far = dot(from, from);
    if (far > 1.0) discard;
    gl_FragColor = vec4(vColor * (1.0 - 0.25 * far), 1.0);
  }`

const PIXELS = 5

export class Dots extends THREE.Points<THREE.BufferGeometry, THREE.ShaderMaterial> {
  constructor() {
    const uniforms = {
      ink: { value: new THREE.Color() },
      tinted: { value: 0 },
      sized: { value: 0 },
      pixels: { value: PIXELS },
      tall: { value: 500 },
      haze: { value: new THREE.Color() },
      hazy: { value: new THREE.Vector2(1e6, 2e6) },
    }
    super(
      new THREE.BufferGeometry(),
      new THREE.ShaderMaterial({ vertexShader: VERTEX, fragmentShader: FRAGMENT, uniforms }),
    )
    this.frustumCulled = false
    this.onBeforeRender = (renderer) => {
      uniforms.tall.value = renderer.getDrawingBufferSize(new THREE.Vector2()).y
      uniforms.pixels.value = PIXELS * renderer.getPixelRatio()
    }
  }

  /**
   * Show points; `radii (P)` in m makes them as large as they are, `colors (P, 3)` tints them, and `placed (16N)` shows
   * them once per matrix.
   */
  set(
    position: THREE.BufferAttribute | null,
    radii: Float32Array | null,
    colors: Float32Array | null,
    placed: Float32Array | null = null,
  ): void {
    this.geometry.dispose()
    this.geometry = placed ? new THREE.InstancedBufferGeometry() : new THREE.BufferGeometry()
    if (placed) this.geometry.setAttribute('placed', new THREE.InstancedBufferAttribute(placed, 16))
    if ('PLACED' in this.material.defines !== !!placed) {
      this.material.defines = placed ? { PLACED: '' } : {}
      this.material.needsUpdate = true
    }
    this.geometry.setAttribute('position', position ?? new THREE.BufferAttribute(new Float32Array(0), 3))
    if (radii) this.geometry.setAttribute('radius', new THREE.BufferAttribute(radii, 1))
    if (colors) this.geometry.setAttribute('color', new THREE.BufferAttribute(colors, 3))
    this.material.uniforms.sized!.value = radii ? 1 : 0
    this.material.uniforms.tinted!.value = colors ? 1 : 0
  }

  setInk(color: THREE.Color): void {
    ;(this.material.uniforms.ink as THREE.IUniform<THREE.Color>).value.copy(color)
  }

  /** What is farther off than the first depth fades into the backdrop, up to the second one; m. */
  setHaze(color: THREE.Color, from: number, to: number): void {
    const { haze, hazy } = this.material.uniforms as Record<string, THREE.IUniform>
    ;(haze!.value as THREE.Color).copy(color)
    ;(hazy!.value as THREE.Vector2).set(from, to)
  }

  dispose(): void {
    this.geometry.dispose()
    this.material.dispose()
  }
}
