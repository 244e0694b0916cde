/** The picked instances, marked where they stand. */
import * as THREE from 'three'
import { sharedIndex } from './meshData'
import { spheresOf, type Placed } from './placed'
import { placedLineMaterial, placedLines } from './placedShapes'

export class ChosenShapes extends THREE.Group {
  private readonly line = placedLineMaterial()
  private readonly box = new THREE.Box3()

  constructor(private readonly face: THREE.Material) {
    super()
  }

  set(placed: Placed[], chosen: ReadonlySet<number>): void {
    this.empty()
    for (const one of placed) {
      const rows = [...one.number.keys()].filter((k) => chosen.has(one.number[k]!))
      if (!rows.length) continue
      const matrix = new Float32Array(rows.length * 16)
      rows.forEach((row, k) => matrix.set(one.matrix.subarray(row * 16, row * 16 + 16), k * 16))
      this.extend({ ...one, matrix })
      const { mesh } = one
      if (mesh.triangleFace.length) {
        const geometry = new THREE.BufferGeometry()
        geometry.setAttribute('position', new THREE.BufferAttribute(mesh.position, 3))
        geometry.setIndex(new THREE.BufferAttribute(sharedIndex(mesh), 1))
        const drawn = new THREE.InstancedMesh(geometry, this.face, rows.length)
        drawn.instanceMatrix = new THREE.InstancedBufferAttribute(matrix, 16)
        drawn.frustumCulled = false
        this.add(drawn)
      } else this.add(placedLines(mesh.position, mesh.segment.length ? mesh.segment : mesh.edge, matrix, this.line))
    }
  }

  private extend(placed: Placed): void {
    const spheres = spheresOf(placed)
    const [middle, reach] = [new THREE.Vector3(), new THREE.Vector3()]
    for (let k = 0; k < spheres.length; k += 4) {
      middle.fromArray(spheres, k)
      reach.setScalar(spheres[k + 3]!)
      this.box.expandByPoint(middle.clone().add(reach)).expandByPoint(middle.sub(reach))
    }
  }

  /** Return the box around what is marked, or null. */
  get bounds(): [number[], number[]] | null {
    return this.box.isEmpty() ? null : [this.box.min.toArray(), this.box.max.toArray()]
  }

  setColor(color: THREE.Color): void {
    ;(this.line.uniforms.ink!.value as THREE.Color).copy(color)
  }

  private empty(): void {
    for (const child of this.children as (THREE.InstancedMesh | THREE.LineSegments)[]) {
      child.geometry.dispose()
      if (child instanceof THREE.InstancedMesh) child.dispose()
    }
    this.clear()
    this.box.makeEmpty()
  }

  dispose(): void {
    this.empty()
    this.line.dispose()
  }
}
