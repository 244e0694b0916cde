import { beforeEach, expect, it, vi } from 'vitest'
import { fakeService } from '../testing/fakeService'

const document = () => ({
  format: 'reticula graph',
  version: 1,
  looking_at: 'a',
  dials: { reach: { type: 'number', value: { keys: [{ frame: 0, value: 1 }] } } },
  nodes: {
    a: {
      operator: 'grid',
      parameters: {
        size: { keys: [0, 4, 8].map((frame) => ({ frame, value: [frame, 1] })) },
        controls: { far: { keys: [{ frame: 2, value: 5 }] } },
      },
    },
  },
})

async function opened() {
  const { useGraph } = await import('../stores/useGraph')
  const { useKeyedValues } = await import('../stores/useKeyedValues')
  const { useKeySelection } = await import('./useKeySelection')
  await useGraph().open('g')
  return { graph: useGraph(), values: useKeyedValues(), selection: useKeySelection() }
}

beforeEach(() => {
  vi.resetModules()
  fakeService((one) =>
    one.method === 'GET'
      ? { body: { id: 'g', project_id: 'p', title: '', revision: 0, document: document(), undo: null, redo: null } }
      : new Error('away'),
  )
})

it('finds values of dials, parameters and controls', async () => {
  const { values } = await opened()
  expect(values.all.value.map((one) => one.id)).toEqual(['/reach/', 'a/size/', 'a/controls/far'])
})

it('moves, scales, copies and deletes keys of several values at once', async () => {
  const { values, selection } = await opened()
  const frames = () => values.all.value.map((one) => one.keyed.keys.map((key) => key.frame))
  selection.chooseAll({ 'a/size/': [4, 8], 'a/controls/far': [2] })
  expect(selection.keys.value).toHaveLength(3)
  selection.carry(selection.entries.value, 10, () => (number) => number + 1, true)
  expect(frames()).toEqual([[0], [0, 14, 18], [12]])
  expect(values.all.value[1]!.keyed.keys[1]!.value).toEqual([5, 2])
  selection.scale(0.5)
  expect(frames()).toEqual([[0], [0, 13, 15], [12]])
  selection.copy()
  selection.paste(30)
  expect(frames()).toEqual([[0], [0, 13, 15, 31, 33], [12, 30]])
  selection.remove()
  expect(frames()).toEqual([[0], [0, 31, 33], [30]])
})

it('sets frame, value and way; a last key that goes leaves its value', async () => {
  const { graph, values, selection } = await opened()
  selection.choose('a/size/', 4, false)
  selection.setFrame(5)
  selection.setValue([7, 7])
  selection.setWay('hold')
  selection.setOutside('after', 'swing')
  expect(values.all.value[1]!.keyed).toMatchObject({
    after: 'swing',
    keys: [{}, { frame: 5, value: [7, 7], way: 'hold' }, {}],
  })
  selection.choose('a/controls/far', 2, false)
  selection.remove()
  expect(graph.document.value.nodes.a!.parameters!.controls).toEqual({ far: 5 })
})
