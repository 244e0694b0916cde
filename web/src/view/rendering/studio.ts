/**
 * The studio picture: corners that little light comes into are darker (McGuire, Osman, Bukowski, Hennessy, "The Alchemy
 * Screen-Space Ambient Obscurance Algorithm", HPG 2011), and silhouettes and creases have a thin outline: where one over
 * the depth is not linear over the picture, the surface is not flat (a plane is; Saito and Takahashi, "Comprehensible
 * Rendering of 3-D Shapes", SIGGRAPH 1990, for outlines from depth). Samples are turned per pixel by interleaved
 * gradient noise (Jimenez, "Next Generation Post Processing in Call of Duty", SIGGRAPH 2014 course) and blurred after.
 */
import * as THREE from 'three'
import { FullScreen } from './fullScreen'

const DEPTH = /* glsl */ `
  uniform sampler2D depths;
  uniform mat4 unproject;
  uniform vec2 pixel;
  varying vec2 at;
  vec3 placeAt(vec2 spot) {
    vec4 place = unproject * vec4(vec3(spot, texture2D(depths, spot).x) * 2.0 - 1.0, 1.0);
    return place.xyz / place.w;
  }`

const CORNERS = /* glsl */ `
  ${DEPTH}
  uniform float reach;
  uniform float scale;
  const int SAMPLES = 14;
  void main() {
    if (texture2D(depths, at).x >= 1.0) { gl_FragColor = vec4(1.0); return; }
    vec3 here = placeAt(at);
    vec3 up = normalize(cross(dFdx(here), dFdy(here)));
    float turn = 6.2832 * fract(52.9829189 * fract(dot(gl_FragCoord.xy, vec2(0.06711056, 0.00583715))));
    float wide = min(reach * scale / -here.z, 0.2);
    float taken = 0.0;
    for (int n = 0; n < SAMPLES; n++) {
      float share = (float(n) + 0.5) / float(SAMPLES);
      float angle = turn + share * 6.2832 * 5.0;
      vec2 spot = at + share * wide * vec2(cos(angle) * pixel.x / pixel.y, sin(angle));
      vec3 way = placeAt(spot) - here;
      float far = dot(way, way);
      float near = max(1.0 - far / (reach * reach), 0.0);
      taken += near * max(dot(way, up) - 0.002 * -here.z, 0.0) / (far + 0.0004 * reach * reach) * reach;
    }
    gl_FragColor = vec4(max(1.0 - 0.55 * taken / float(SAMPLES), 0.0));
  }`

const COMPOSE = /* glsl */ `
  ${DEPTH}
  uniform sampler2D colors;
  uniform sampler2D corners;
  uniform float strength;
  uniform float angle;
  float nearness(vec2 spot) { return -1.0 / placeAt(spot).z; }
  void main() {
    vec4 color = texture2D(colors, at);
    float light = 0.0;
    for (int x = 0; x < 4; x++)
      for (int y = 0; y < 4; y++)
        light += texture2D(corners, at + (vec2(x, y) - 1.5) * pixel).x;
    light = mix(1.0, light / 16.0, strength);
    float here = nearness(at);
    float bend = abs(nearness(at + vec2(pixel.x, 0.0)) + nearness(at - vec2(pixel.x, 0.0)) - 2.0 * here)
      + abs(nearness(at + vec2(0.0, pixel.y)) + nearness(at - vec2(0.0, pixel.y)) - 2.0 * here);
    float line = smoothstep(0.8, 3.2, bend / (here * angle));
    gl_FragColor = vec4(color.rgb * light * (1.0 - 0.36 * line * color.a), color.a);
  }`

export class Studio {
  private readonly target: THREE.WebGLRenderTarget
  private readonly dark: THREE.WebGLRenderTarget
  private readonly corners: FullScreen
  private readonly compose: FullScreen

  constructor() {
    this.target = new THREE.WebGLRenderTarget(1, 1, { samples: 4, depthTexture: new THREE.DepthTexture(1, 1) })
    this.dark = new THREE.WebGLRenderTarget(1, 1, { depthBuffer: false })
    const shared = {
      depths: { value: this.target.depthTexture },
      unproject: { value: new THREE.Matrix4() },
      pixel: { value: new THREE.Vector2() },
    }
    this.corners = new FullScreen(CORNERS, { ...shared, reach: { value: 1 }, scale: { value: 1 } })
    this.compose = new FullScreen(COMPOSE, {
      ...shared,
      colors: { value: this.target.texture },
      corners: { value: this.dark.texture },
      strength: { value: 1 },
      angle: { value: 0.001 },
    })
  }

  /**
   * Draw a scene into the renderer's viewport. `size` is that of the shape in m: corners are looked for within a part of
   * it. `strength` is 1 for clay and less for colours that stand for numbers.
   */
  render(
    renderer: THREE.WebGLRenderer,
    scene: THREE.Scene,
    camera: THREE.PerspectiveCamera,
    size: number,
    strength: number,
  ): void {
    const view = renderer.getCurrentViewport(new THREE.Vector4())
    if (view.z < 1 || view.w < 1) return
    this.target.setSize(view.z, view.w)
    this.dark.setSize(view.z, view.w)
    const cut = renderer.getScissorTest()
    renderer.setScissorTest(false)
    renderer.setRenderTarget(this.target)
    renderer.clear()
    renderer.render(scene, camera)
    const half = Math.tan((camera.fov * Math.PI) / 360)
    for (const { material } of [this.corners, this.compose]) {
      const { unproject, pixel } = material.uniforms as Record<string, THREE.IUniform>
      ;(unproject!.value as THREE.Matrix4).copy(camera.projectionMatrixInverse)
      ;(pixel!.value as THREE.Vector2).set(1 / view.z, 1 / view.w)
    }
    this.corners.material.uniforms.reach!.value = size * 0.07
    this.corners.material.uniforms.scale!.value = 0.5 / half
    this.compose.material.uniforms.strength!.value = strength
    this.compose.material.uniforms.angle!.value = (2 * half) / view.w
    this.corners.draw(renderer, this.dark)
    renderer.setScissorTest(cut)
    this.compose.draw(renderer, null)
  }

  dispose(): void {
    for (const target of [this.target, this.dark]) target.dispose()
    this.target.depthTexture?.dispose()
    for (const pass of [this.corners, this.compose]) pass.dispose()
  }
}
