/** A large picture in tiles that a graphics card can draw. */

export interface Tile {
  x: number
  y: number
  wide: number
  tall: number
}

/** Return tiles of at most `most` pixels a side that cover a picture without overlap. */
export function tilesOf(width: number, height: number, most: number): Tile[] {
  const cuts = (length: number) => {
    const step = Math.min(most, length)
    return Array.from(
      { length: Math.ceil(length / step) },
      (_, n) => [n * step, Math.min(step, length - n * step)] as const,
    )
  }
  return cuts(height).flatMap(([y, tall]) => cuts(width).map(([x, wide]) => ({ x, y, wide, tall })))
}
