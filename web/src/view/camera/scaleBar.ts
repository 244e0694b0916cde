/** A bar of a round length in real units, for how large a picture is. */

const UNITS: [number, string][] = [
  [1000, 'km'],
  [1, 'm'],
  [0.01, 'cm'],
  [0.001, 'mm'],
]

/** The largest of 1, 2 and 5 times a power of ten that is not above a length. */
export function roundLength(length: number): number {
  const power = 10 ** Math.floor(Math.log10(length))
  const part = length / power
  return power * (part >= 5 ? 5 : part >= 2 ? 2 : 1)
}

/** A length in the unit that reads best, e.g. `5 cm`. */
export function lengthInWords(metres: number): string {
  const [scale, unit] = UNITS.find(([one]) => metres >= one * 0.9999) ?? UNITS.at(-1)!
  return `${Number((metres / scale).toPrecision(3))} ${unit}`
}

/** How many metres a pixel covers at a distance, for a camera with an opening angle in degrees and a picture so tall. */
export function metresPerPixel(distance: number, fov: number, tall: number): number {
  return (2 * distance * Math.tan((fov * Math.PI) / 360)) / Math.max(tall, 1)
}

/** The bar that fits into a width in pixels. */
export function scaleBar(perPixel: number, most: number): { metres: number; pixels: number; words: string } {
  const metres = roundLength(perPixel * most)
  return { metres, pixels: metres / perPixel, words: lengthInWords(metres) }
}
