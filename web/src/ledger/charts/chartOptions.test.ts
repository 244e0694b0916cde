import { expect, test } from 'vitest'
import { againstChart, cardChart, groupChart, spreadChart } from './chartOptions'

const INK = { text: '#111', faint: '#222', line: '#333', bar: '#444', live: '#555' }

test('a histogram covers the real range and counts every value', () => {
  const { xAxis, series } = spreadChart(INK, [0, 1, 2, 3, 4, 5])
  expect([xAxis.min, xAxis.max]).toEqual([0, 5])
  expect(series[0]!.data.reduce((sum, [, held]) => sum + held!, 0)).toBe(6)
  expect(spreadChart(INK, [7, 7]).xAxis.max).toBe(8)
})

test('many elements are drawn as an even part of them', () => {
  const x = Float64Array.from({ length: 50_000 }, (_, i) => i)
  const { series, xAxis } = againstChart(INK, x, x, ['area', 'slope'])
  expect(series[0]!.data).toHaveLength(20_000)
  expect(series[0]!.data.at(-1)![0]).toBeGreaterThan(49_990)
  expect(xAxis.name).toBe('area')
})

test('groups without members have no box', () => {
  const values = Float64Array.of(1, 2, 3, 4)
  const { xAxis, series } = groupChart(INK, values, [
    { name: 'crest', flags: [0, 0, 1, 1] },
    { name: 'empty', flags: [0, 0, 0, 0] },
  ])
  expect(xAxis.data).toEqual(['all', 'crest'])
  expect(series[0]!.data[1]).toEqual([3, 3.25, 3.5, 3.75, 4])
})

test('cards show faces and time on axes of their own, in words', () => {
  const { yAxis, series } = cardChart(INK, [{ title: 'Raise', seconds: 0.085, faces: 12_210 }])
  expect(series.map((one) => one.data[0])).toEqual([12_210, 0.085])
  expect((yAxis[1]!.axisLabel as { formatter: (n: number) => string }).formatter(0.085)).toBe('85 ms')
})
