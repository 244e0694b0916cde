import { expect, test } from 'vitest'
import { EMPTY_BATCH, isTable, namesOf, placesOf, shapeList, variedBy } from './batches'

test('shapes come in at inputs and at parameters that name one', () => {
  const operatorOf = (node: { operator: string } | undefined) =>
    ({ parameters: node?.operator === 'project_shape' ? [{ name: 'shape', widget: 'shape' }] : [] }) as never
  const graph = {
    format: 'reticula graph',
    version: 1,
    inputs: [{ name: 'sea_floor' }],
    nodes: { scan: { operator: 'project_shape', title: 'Survey' }, up: { operator: 'extrude' } },
  }
  expect(placesOf(graph as never, operatorOf)).toEqual([
    { name: 'sea_floor', label: 'sea floor' },
    { name: 'scan.shape', label: 'Survey' },
  ])
})

test('what a batch varies are the places that have shapes', () => {
  expect(variedBy(EMPTY_BATCH)).toEqual({})
  expect(variedBy({ ...EMPTY_BATCH, shapes: { 'scan.shape': ['bay', 'west'], other: [] } })).toEqual({
    'scan.shape': 'bay, west',
  })
  expect(shapeList(['2026', 'bay'])).toBe('"2026", bay')
  expect(namesOf('"2026", bay,')).toEqual(['2026', 'bay'])
  expect([isTable({ file_name: 'season.CSV' }), isTable({ file_name: 'bay.ply' })]).toEqual([true, false])
})
