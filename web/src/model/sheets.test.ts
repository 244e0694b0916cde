import { expect, test } from 'vitest'
import {
  aimKey,
  columnsOf,
  grouped,
  headed,
  howsFor,
  isDrawn,
  linesOf,
  merged,
  nowhere,
  numbersOf,
  planned,
  said,
  sorted,
  soughtWords,
  textOf,
  turnOf,
  verdictOf,
  within,
  written,
  type Sheet,
  type Variant,
} from './sheets'

const noted = { volume: 'volume' }
const sheet = { plan: { vary: { lift: '0.1,0.2', shape: 'a,b' } }, noted, best: [] } as unknown as Sheet
const variant = (number: number, lift: number, shape: string, volume: number | null, state = 'done') =>
  ({ number, state, ended: number, values: { lift, shape }, numbers: { volume }, seconds: 0.5 }) as unknown as Variant
const VARIANTS = [variant(1, 0.2, 'b', 4), variant(2, 0.1, 'a', null), variant(3, 0.3, 'a', 2)]
const COLUMNS = columnsOf(sheet, VARIANTS)
const column = (title: string) => COLUMNS.find((one) => one.title === title)!
const numbers = (variants: readonly Variant[]) => variants.map((one) => one.number)

test('a dial is offered with its own range, and stays at first', () => {
  const turn = turnOf('lift', { type: 'number', value: 0.2, soft: [0, 0.6] })
  expect([turn.low, turn.high, turn.middle, textOf(turn)]).toEqual([0, 0.6, 0.2, ''])
  expect(textOf({ ...turn, how: 'even' })).toBe('0:0.6:5')
  expect(textOf({ ...turn, how: 'uniform' })).toBe('uniform(0, 0.6)')
  expect(textOf({ ...turn, how: 'normal', deviation: 0.1 })).toBe('normal(0.2, 0.1)')
  expect(textOf({ ...turn, how: 'list', list: '1, 2' })).toBe('1, 2')
})

test('choices and flags are turned by lists of all that they can be', () => {
  expect(turnOf('round', { type: 'flag', value: true }).list).toBe('true, false')
  const options = [{ value: 'round' }, { value: 'square' }]
  expect(turnOf('outline', { type: 'choice', value: 'round', options }).list).toBe('round, square')
  expect(howsFor('choice')).toEqual(['stays', 'list'])
  expect(howsFor('integer')).toHaveLength(5)
  expect(isDrawn([turnOf('round', { type: 'flag', value: true })])).toBe(false)
})

test('numbers are words, and lines with a name', () => {
  const lines = 'top = max(geo.points.position.y)\narea == 2\n\n'
  expect(numbersOf(['volume'], lines)).toEqual({
    volume: 'volume',
    top: 'max(geo.points.position.y)',
    'area == 2': 'area == 2',
  })
})

test('columns say what was turned and noted', () => {
  expect(COLUMNS.map((one) => [one.title, one.isNumber])).toEqual([
    ['number', true],
    ['lift', true],
    ['shape', false],
    ['volume', true],
    ['time', true],
  ])
  expect(written(column('volume').of(VARIANTS[1]!))).toBe('–')
  expect([written(12_210), written(0.123456), written(true)]).toEqual(['12,210', '0.1235', 'true'])
  expect(headed(column('volume'))).toBe('volume (m³)')
  expect(said(columnsOf(sheet, VARIANTS, () => 'm')[1]!, VARIANTS[0]!)).toBe('lift 0.2 m')
  const name = { key: 'values.name', title: 'name', unit: '', isNumber: false, of: () => 'north bay' }
  expect(said(name, VARIANTS[0]!)).toBe('north bay')
})

test('what only some variants turned has a column, too', () => {
  const other = { ...variant(4, 0.2, 'a', 1), values: { rim: 0.5 } } as unknown as Variant
  const columns = columnsOf(sheet, [...VARIANTS, other])
  expect(columns.map((one) => one.title)).toEqual(['number', 'lift', 'shape', 'rim', 'volume', 'time'])
  expect(columns[3]!.of(VARIANTS[0]!)).toBeNull()
})

test('what has no value comes last, whichever way one sorts', () => {
  expect(numbers(sorted(VARIANTS, column('volume'), false))).toEqual([3, 1, 2])
  expect(numbers(sorted(VARIANTS, column('volume'), true))).toEqual([1, 3, 2])
})

test('a number that no variant has is said with its reason', () => {
  const without = [variant(1, 0.1, 'a', null), variant(2, 0.2, 'a', null)]
  without[0]!.warnings = ["number 'volume': the surface is open"]
  expect(nowhere(sheet, without)).toBe('‘volume’ could not be had of any variant: the surface is open')
  expect(nowhere(sheet, VARIANTS)).toBe('')
  expect(nowhere(sheet, [variant(1, 0.1, 'a', null, 'open')])).toBe('')
})

test('groups keep the order in which variants stand', () => {
  const groups = grouped(sorted(VARIANTS, column('lift'), true), column('shape'))
  expect(groups.map((one) => [one.title, numbers(one.variants)])).toEqual([
    ['shape a', [3, 2]],
    ['shape b', [1]],
  ])
})

test('what ended takes the place of what was open', () => {
  const after = merged(VARIANTS, [variant(2, 0.1, 'a', 9)])
  expect(numbers(after)).toEqual([1, 2, 3])
  expect(after[1]!.numbers.volume).toBe(9)
  expect(merged(VARIANTS, [])).toBe(VARIANTS)
})

test('ranges of several columns hold together', () => {
  expect(within(VARIANTS, COLUMNS, {})).toBeNull()
  expect([...within(VARIANTS, COLUMNS, { 'values.lift': [[0.15, 0.35]], 'numbers.volume': [[0, 3]] })!]).toEqual([3])
  expect([
    ...within(VARIANTS, COLUMNS, {
      'values.lift': [
        [0, 0.1],
        [0.3, 1],
      ],
    })!,
  ]).toEqual([2, 3])
})

test('a search has columns for its aims and for what variants are', () => {
  const aims = [
    { formula: 'volume', goal: 'smallest', value: 0 },
    { formula: 'volume / lift', goal: 'at', value: 3 },
  ]
  const sought = {
    ...sheet,
    plan: { ...sheet.plan, count: 40, seek: { aims, conditions: ['lift > 0'] } },
    state: 'running',
    best: [3],
    done: 3,
    failed: 0,
    open: 0,
  } as unknown as Sheet
  const tries = VARIANTS.map((one) => ({ ...one, aims: { 'volume / lift': one.number }, meets: one.number !== 2 }))
  const columns = columnsOf(sought, tries)
  expect(columns.map((one) => one.key)).toEqual([
    'number',
    'values.lift',
    'values.shape',
    'numbers.volume',
    'aims.volume / lift',
    'verdict',
    'seconds',
  ])
  expect(tries.map((one) => verdictOf(sought, one))).toEqual(['met', 'unmet', 'best'])
  expect(numbers(sorted(tries, columns[5], false))).toEqual([3, 1, 2])
  expect(['volume', 'lift', 'volume / lift'].map((name) => aimKey(sought, name))).toEqual([
    'numbers.volume',
    'values.lift',
    'aims.volume / lift',
  ])
  expect(soughtWords(sought)).toBe('volume smallest, volume / lift at 3')
  expect([planned(sought), planned({ ...sought, state: 'done' })]).toEqual([40, 3])
})

test('what is sought has ends, and conditions stand on lines', () => {
  expect(howsFor('number', true)).not.toContain('normal')
  expect(linesOf(' area < 2 \n\n lift > 1')).toEqual(['area < 2', 'lift > 1'])
})

test('tries that end before those that were asked for first take no place of theirs', () => {
  const [one, two, three] = VARIANTS
  expect(numbers(merged(merged([], [three!]), [one!, two!]))).toEqual([1, 2, 3])
})
