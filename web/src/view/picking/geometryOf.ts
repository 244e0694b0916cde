/** Triangles for a tree to be built over. */
import * as THREE from 'three'
import { sharedIndex, type MeshData } from '../rendering/meshData'

/** A geometry of its own: the arrays of a mesh that is drawn must not be handed to a worker. */
export function geometryOf(mesh: MeshData): THREE.BufferGeometry {
  const geometry = new THREE.BufferGeometry()
  geometry.setAttribute('position', new THREE.BufferAttribute(mesh.position.slice(), 3))
  geometry.setIndex(new THREE.BufferAttribute(sharedIndex(mesh), 1))
  return geometry
}
