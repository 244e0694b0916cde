/** The surface material: clay in soft light, colours that stay true to the legend, a checker of uv, or a material with grain. */
import * as THREE from 'three'

const VERTEX = /* glsl */ `
  attribute vec3 tone;
  varying vec3 vTone;
  varying vec3 vNormal;
  varying vec3 vPlace;
  varying vec3 vWorld;
  void main() {
    vTone = tone;
    vec4 own = vec4(position, 1.0);
    vec3 up = normal;
    #ifdef USE_INSTANCING
      own = instanceMatrix * own;
      mat3 turn = mat3(instanceMatrix);
      up = turn * (up / vec3(dot(turn[0], turn[0]), dot(turn[1], turn[1]), dot(turn[2], turn[2])));
    #endif
    vWorld = (modelMatrix * own).xyz;
    vec4 place = modelViewMatrix * own;
    vNormal = normalMatrix * up;
    vPlace = place.xyz;
    gl_Position = projectionMatrix * place;
  }`

/**
 * The checker has 8 squares to a unit of uv. Along u its dark squares turn warmer, along v its light ones cooler, so that
 * a mirrored or turned sheet is seen. The grain is value noise on the places of the surface (Perlin, "An Image
 * Synthesizer", SIGGRAPH 1985, for tilting the normal by the slope of a noise).
 */
const FRAGMENT = /* glsl */ `
  uniform vec3 clay;
  uniform float useTone;
  uniform float depth;
  uniform float flatShade;
  uniform float grain;
  uniform vec3 backTint;
  uniform vec4 cut;
  uniform float studio;
  uniform float veil;
  varying vec3 vWorld;
  varying vec3 vTone;
  varying vec3 vNormal;
  varying vec3 vPlace;

  #ifdef CHECKER
  vec3 checked(vec2 uv) {
    vec2 square = floor(uv * 8.0);
    vec2 part = fract(uv);
    float light = mod(square.x + square.y, 2.0);
    vec3 dark = mix(vec3(0.30, 0.34, 0.40), vec3(0.58, 0.30, 0.20), part.x);
    vec3 pale = mix(vec3(0.93, 0.90, 0.83), vec3(0.66, 0.84, 0.86), part.y);
    return mix(dark, pale, light);
  }
  #endif

  #ifdef GRAIN
  float dice(vec3 p) {
    return fract(sin(dot(p, vec3(127.1, 311.7, 74.7))) * 43758.5453);
  }

  float noise(vec3 p) {
    vec3 cell = floor(p);
    vec3 f = fract(p);
    f = f * f * (3.0 - 2.0 * f);
    vec4 low = vec4(dice(cell), dice(cell + vec3(1, 0, 0)), dice(cell + vec3(0, 1, 0)), dice(cell + vec3(1, 1, 0)));
    vec4 high = vec4(dice(cell + vec3(0, 0, 1)), dice(cell + vec3(1, 0, 1)), dice(cell + vec3(0, 1, 1)), dice(cell + vec3(1, 1, 1)));
    vec4 along = mix(low, high, f.z);
    vec2 across = mix(along.xy, along.zw, f.y);
    return mix(across.x, across.y, f.x);
  }

  /** Three layers of noise, each turned against the last, so that no grid is seen. */
  float grained(vec3 p) {
    const mat3 turn = mat3(0.36, 0.48, -0.8, -0.8, 0.6, 0.0, 0.48, 0.64, 0.6);
    vec3 q = turn * p;
    vec3 r = turn * (q * 2.3);
    return 0.5 * noise(q) + 0.3 * noise(r) + 0.2 * noise(turn * (r * 2.1));
  }
  #endif

  /** Bright light is drawn together, hues stay (Khronos PBR Neutral Tone Mapper, Khronos Group 2024). */
  vec3 neutral(vec3 color) {
    const float begin = 0.76;
    float low = min(color.r, min(color.g, color.b));
    color -= low < 0.08 ? low - 6.25 * low * low : 0.04;
    float peak = max(color.r, max(color.g, color.b));
    if (peak < begin) return color;
    float room = 1.0 - begin;
    float drawn = 1.0 - room * room / (peak + room - begin);
    color *= drawn / peak;
    return mix(color, vec3(drawn), 1.0 - 1.0 / (0.15 * (peak - drawn) + 1.0));
  }

  /** The light of a sky over warm ground, a sun over the shoulder, and a little from behind along the rim; linear. */
  vec3 lit(vec3 n) {
    vec3 up = (viewMatrix * vec4(0.0, 1.0, 0.0, 0.0)).xyz;
    vec3 sky = mix(vec3(0.34, 0.29, 0.25), vec3(0.74, 0.80, 0.88), 0.5 + 0.5 * dot(n, up));
    vec3 sun = vec3(1.0, 0.93, 0.82) * max(dot(n, normalize(vec3(0.45, 0.7, 0.5))), 0.0);
    float rim = pow(1.0 - max(dot(n, -normalize(vPlace)), 0.0), 3.0);
    return 0.62 * sky + 0.72 * sun + 0.14 * rim;
  }

  void main() {
    if (dot(cut.xyz, vWorld) > cut.w) discard;
    vec3 facet = normalize(cross(dFdx(vPlace), dFdy(vPlace)));
    // Slivers turn over when places are rounded: the back is seen only where the normal of the points says so too.
    bool back = !gl_FrontFacing && (dot(vNormal, vNormal) < 1e-8 || dot(vNormal, vPlace) > 0.0);
    vec3 n = flatShade > 0.5 || dot(vNormal, vNormal) < 1e-8 ? facet : normalize(vNormal);
    if (dot(n, -normalize(vPlace)) < 0.0 && flatShade > 0.5) n = -n;
    if (back) n = flatShade > 0.5 ? n : -n;
    #ifdef CHECKER
    vec3 base = checked(vTone.xy);
    #else
    vec3 base = mix(clay, vTone, useTone);
    #endif
    float shine = 0.0;
    #ifdef GRAIN
      vec3 p = vWorld * grain;
      float here = grained(p);
      vec3 slope = vec3(grained(p + vec3(0.15, 0, 0)), grained(p + vec3(0, 0.15, 0)), grained(p + vec3(0, 0, 0.15))) - here;
      n = normalize(n - 0.8 * slope);
      base *= 0.84 + 0.3 * here;
      shine = 0.22 * pow(max(dot(n, normalize(normalize(vec3(0.35, 0.75, 0.55)) - normalize(vPlace))), 0.0), 28.0);
    #endif
    vec3 key = normalize(vec3(0.35, 0.75, 0.55));
    float light = 0.62 * max(dot(n, key), 0.0) + 0.3 * max(dot(n, vec3(0.0, 0.0, 1.0)), 0.0) + 0.22 + 0.08 * n.y;
    if (back) base = mix(base, backTint, 0.55);
    vec3 soft = base * mix(1.0, min(light, 1.12), depth);
    if (studio > 0.5) soft = mix(base, pow(neutral(pow(base, vec3(2.2)) * lit(n)), vec3(1.0 / 2.2)), depth);
    // Seen through: an even veil, or (x-ray) clear where one looks straight at it and dense along its rims.
    float across = 1.0 - abs(dot(n, -normalize(vPlace)));
    float dense = veil < 0.5 ? 1.0 : veil < 1.5 ? 0.42 : 0.06 + 0.8 * across * across;
    gl_FragColor = vec4(soft + shine, dense);
  }`

/** Draw as a checker of uv, as a material with grain, or plainly; the graphics card builds a program for each when it is first needed. */
export function drawAs(material: THREE.ShaderMaterial, as: 'checker' | 'material' | undefined): void {
  const defines: Record<string, string> = as === 'checker' ? { CHECKER: '' } : as === 'material' ? { GRAIN: '' } : {}
  if (Object.keys(defines).join() === Object.keys(material.defines).join()) return
  material.defines = defines
  material.needsUpdate = true
}

/** Make the material. `tone` is the display colour of each vertex (or its u and v, for a checker), used when `useTone` is 1. */
export function surfaceMaterial(): THREE.ShaderMaterial {
  return new THREE.ShaderMaterial({
    vertexShader: VERTEX,
    fragmentShader: FRAGMENT,
    uniforms: {
      clay: { value: new THREE.Vector3(0.86, 0.78, 0.68) },
      useTone: { value: 0 },
      depth: { value: 1 },
      flatShade: { value: 0 },
      grain: { value: 0 },
      cut: { value: new THREE.Vector4(0, 0, 0, 1) },
      studio: { value: 0 },
      veil: { value: 0 },
      backTint: { value: new THREE.Vector3(0.35, 0.45, 0.55) },
    },
    defines: {},
    side: THREE.DoubleSide,
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
  })
}
