/** Instances in the picture: each shape is uploaded once and drawn once per matrix. */
import * as THREE from 'three'
import { sharedIndex, type MeshData } from './meshData'

export class PlacedShapes extends THREE.Group {
  constructor(private readonly material: THREE.Material) {
    super()
  }

  /** Show other instances. */
  set(placed: MeshData['instances']): void {
    for (const child of this.children as THREE.InstancedMesh[]) {
      child.geometry.dispose()
      child.dispose()
    }
    this.clear()
    for (const { mesh, matrix } of placed) {
      if (!mesh.triangleFace.length) continue
      const geometry = new THREE.BufferGeometry()
      geometry.setAttribute('position', new THREE.BufferAttribute(mesh.position, 3))
      geometry.setAttribute('normal', new THREE.BufferAttribute(mesh.normal, 3))
      geometry.setIndex(new THREE.BufferAttribute(sharedIndex(mesh), 1))
      const drawn = new THREE.InstancedMesh(geometry, this.material, matrix.length / 16)
      drawn.instanceMatrix = new THREE.InstancedBufferAttribute(matrix, 16)
      drawn.frustumCulled = false
      this.add(drawn)
    }
  }
}
