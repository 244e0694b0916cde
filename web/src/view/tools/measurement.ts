/** Distances and angles between places. */
import { short } from '../../shared/numbers'

export type Spot3 = [number, number, number]

function minus(a: Spot3, b: Spot3): Spot3 {
  return [a[0] - b[0], a[1] - b[1], a[2] - b[2]]
}

/** Distance of two places, in m. */
export function far(a: Spot3, b: Spot3): number {
  return Math.hypot(...minus(a, b))
}

/** Angle at the middle one of three places, in degrees. */
export function angle(a: Spot3, middle: Spot3, b: Spot3): number {
  const [u, v] = [minus(a, middle), minus(b, middle)]
  const cross = Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0])
  return (Math.atan2(cross, u[0] * v[0] + u[1] * v[1] + u[2] * v[2]) * 180) / Math.PI
}

/** Say what was measured. */
export function measured(places: Spot3[]): string {
  if (!places.length) return 'click a place of the surface'
  if (places.length === 1) return 'click another one'
  const parts = places.slice(1).map((place, i) => `${short(far(place, places[i]!))} m`)
  return places.length === 3
    ? `${parts.join(' + ')}, ${short(angle(...(places as [Spot3, Spot3, Spot3])))}°`
    : parts[0]!
}
