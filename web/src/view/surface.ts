/** The surface material: clay in soft light, or colours that stay true to the legend. */
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

const FRAGMENT = /* glsl */ `
  uniform vec3 clay;
  uniform float useTone;
  uniform float depth;
  uniform float flatShade;
  uniform vec3 backTint;
  uniform vec4 cut;
  varying vec3 vWorld;
  varying vec3 vTone;
  varying vec3 vNormal;
  varying vec3 vPlace;
  void main() {
    if (dot(cut.xyz, vWorld) > cut.w) discard;
    vec3 facet = normalize(cross(dFdx(vPlace), dFdy(vPlace)));
    vec3 n = flatShade > 0.5 || dot(vNormal, vNormal) < 1e-8 ? facet : normalize(vNormal);
    if (dot(n, -normalize(vPlace)) < 0.0 && flatShade > 0.5) n = -n;
    if (!gl_FrontFacing) n = flatShade > 0.5 ? n : -n;
    vec3 key = normalize(vec3(0.35, 0.75, 0.55));
    float light = 0.62 * max(dot(n, key), 0.0) + 0.3 * max(dot(n, vec3(0.0, 0.0, 1.0)), 0.0) + 0.22 + 0.08 * n.y;
    vec3 base = mix(clay, vTone, useTone);
    if (!gl_FrontFacing) base = mix(base, backTint, 0.55);
    gl_FragColor = vec4(base * mix(1.0, min(light, 1.12), depth), 1.0);
  }`

/** Make the material. `tone` is the display colour of each vertex, used when `useTone` is 1. */
export function surfaceMaterial(): THREE.ShaderMaterial {
  return new THREE.ShaderMaterial({
    vertexShader: VERTEX,
    fragmentShader: FRAGMENT,
    uniforms: {
      clay: { value: new THREE.Vector3(0.86, 0.78, 0.68) },
      useTone: { value: 0 },
      depth: { value: 1 },
      flatShade: { value: 0 },
      cut: { value: new THREE.Vector4(0, 0, 0, 1) },
      backTint: { value: new THREE.Vector3(0.35, 0.45, 0.55) },
    },
    side: THREE.DoubleSide,
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
  })
}
