import { expect, test } from 'vitest'
import { ref } from 'vue'
import type { Variant } from '../model/sheets'
import { GAP, HEADING, useWall } from './useWall'

const variants = (count: number) => Array.from({ length: count }, (_, i) => ({ number: i + 1 }) as Variant)

test('ten thousand variants have a few cells in sight, wherever one is', () => {
  const scrolled = ref(0)
  const cell = ref({ least: 150, tall: 180 })
  const wall = useWall(ref([{ title: '', variants: variants(10_000) }]), ref(640), ref(600), scrolled, cell)
  expect(wall.across.value).toBe(4)
  expect(wall.tall.value).toBe(GAP + 2500 * (180 + GAP))
  for (const [at, first] of [
    [0, 1],
    [200_000, 4249],
  ] as const) {
    scrolled.value = at
    expect(wall.inSight.value.length).toBeLessThan(8)
    expect(wall.inSight.value[0]!.cells[0]!.number).toBe(first)
  }
})

test('groups stand below their titles, and begin a row of their own', () => {
  const groups = ref([
    { title: 'rings 2', variants: variants(3) },
    { title: 'rings 3', variants: variants(1) },
  ])
  const wall = useWall(groups, ref(400), ref(5000), ref(0), ref({ least: 150, tall: 100 }))
  expect(wall.inSight.value.map((one) => [one.title, one.cells.length, one.at])).toEqual([
    ['rings 2', 0, GAP],
    ['', 2, GAP + HEADING],
    ['', 1, GAP + HEADING + 108],
    ['rings 3', 0, GAP + HEADING + 216],
    ['', 1, GAP + 2 * HEADING + 216],
  ])
})

test('a wall narrower than a cell has one in each row', () => {
  const wall = useWall(
    ref([{ title: '', variants: variants(2) }]),
    ref(90),
    ref(500),
    ref(0),
    ref({ least: 150, tall: 50 }),
  )
  expect(wall.across.value).toBe(1)
})
