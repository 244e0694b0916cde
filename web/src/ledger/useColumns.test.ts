import { computed, ref } from 'vue'
import { expect, it } from 'vitest'
import { useColumns } from './useColumns'

const cells = computed(() => ['heat', 'move', 'move', 'area'].map((name, n) => ({ name, key: `${name}.${n}` })))
const names = (columns: ReturnType<typeof useColumns>) => columns.listed.value.map((cell) => cell.name)

it('moves a column with all of its parts', () => {
  const columns = useColumns(
    cells,
    () => 'face',
    () => 'g',
  )
  columns.move('move', -1)
  expect(names(columns)).toEqual(['move', 'move', 'heat', 'area'])
  columns.move('move', -1)
  expect(names(columns)).toEqual(['move', 'move', 'heat', 'area'])
  columns.move('heat', 1)
  expect(names(columns)).toEqual(['move', 'move', 'area', 'heat'])
})

it('leaves out what is hidden, of one kind only, and moves past it', () => {
  let kind: 'face' | 'point' = 'face'
  const columns = useColumns(
    cells,
    () => kind,
    () => 'g',
  )
  columns.hide('move')
  expect(names(columns)).toEqual(['heat', 'area'])
  columns.move('area', -1)
  expect(names(columns)).toEqual(['area', 'heat'])
  columns.showAll()
  expect(names(columns)).toEqual(['area', 'heat', 'move', 'move'])
  kind = 'point'
})

it('belongs to the graph that is open', () => {
  const graph = ref('a')
  const columns = useColumns(
    cells,
    () => 'face',
    () => graph.value,
  )
  columns.hide('move')
  columns.move('area', -1)
  graph.value = 'b'
  expect(names(columns)).toEqual(['heat', 'move', 'move', 'area'])
  expect(columns.hidden.value).toEqual([])
  columns.showAll()
  graph.value = 'a'
  expect(names(columns)).toEqual(['area', 'heat'])
})
