import { expect, test } from 'vitest'
import { tilesOf } from './tiles'

test.each([
  [7680, 4800, 2048],
  [100, 50, 2048],
  [2049, 2048, 2048],
  [3, 3, Infinity],
])('tiles of %i by %i cover it once', (width, height, most) => {
  const tiles = tilesOf(width, height, most)
  expect(tiles.reduce((sum, tile) => sum + tile.wide * tile.tall, 0)).toBe(width * height)
  expect(Math.max(...tiles.map((tile) => tile.x + tile.wide))).toBe(width)
  expect(Math.max(...tiles.map((tile) => tile.y + tile.tall))).toBe(height)
  expect(Math.max(...tiles.flatMap((tile) => [tile.wide, tile.tall]))).toBeLessThanOrEqual(most)
})
