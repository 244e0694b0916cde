/** Lines through places, one after the other: a trace, a distance that is measured, what a text asked. */
import * as THREE from 'three'
import { fresh } from './picture'

export type Way = [number, number, number][]

/** Draw a line through the places of each way. */
export function setWays(lines: THREE.LineSegments, ways: readonly Way[]): void {
  fresh(lines)
  const places = ways.flat()
  if (places.length)
    lines.geometry.setAttribute('position', new THREE.BufferAttribute(new Float32Array(places.flat()), 3))
  lines.geometry.setIndex(segmentsOf(ways))
}

/** Which places are joined: each of a way with the next one, none across two ways. */
export function segmentsOf(ways: readonly Way[]): number[] {
  let begin = 0
  return ways.flatMap((way) => {
    const first = begin
    begin += way.length
    return way.slice(1).flatMap((_, i) => [first + i, first + i + 1])
  })
}
