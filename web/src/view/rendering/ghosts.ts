/** Other meshes as faint wires. */
import * as THREE from 'three'
import type { MeshData } from './meshData'

export class Ghosts extends THREE.Group {
  private readonly material = new THREE.LineBasicMaterial({ transparent: true, opacity: 0.35 })

  /** Show other meshes; whether that changes the picture. */
  set(meshes: MeshData[], color: THREE.Color): boolean {
    if (!meshes.length && !this.children.length) return false
    this.empty()
    this.material.color.copy(color)
    for (const mesh of meshes) {
      const ghost = new THREE.LineSegments(new THREE.BufferGeometry(), this.material)
      ghost.geometry.setAttribute('position', new THREE.BufferAttribute(mesh.position, 3))
      ghost.geometry.setIndex(new THREE.BufferAttribute(mesh.edge.length ? mesh.edge : mesh.segment, 1))
      ghost.frustumCulled = false
      this.add(ghost)
    }
    return true
  }

  private empty(): void {
    for (const part of this.children as THREE.LineSegments[]) part.geometry.dispose()
    this.clear()
  }

  dispose(): void {
    this.empty()
    this.material.dispose()
  }
}
