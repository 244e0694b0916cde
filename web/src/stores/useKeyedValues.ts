/** The values with keys of the graph that is worked on, and changes of them. */
import { createGlobalState } from '@vueuse/core'
import { computed } from 'vue'
import { isKeyed, type Keyed } from '../model/time/keyedValues'
import { useCatalogue } from './useCatalogue'
import { useGraph } from './useGraph'
import { useSelectedCards } from './useSelectedCards'

/** Where a value with keys is: a dial (no node), a parameter, or a control of a script. */
export interface KeyedPlace {
  node: string
  parameter: string
  control: string
}
export interface KeyedValue extends KeyedPlace {
  id: string
  label: string
  keyed: Keyed
}

export const idOf = ({ node, parameter, control }: KeyedPlace) => [node, parameter, control].join('/')

export const useKeyedValues = createGlobalState(() => {
  const graph = useGraph()
  const { cards } = useSelectedCards()
  const { operatorOf } = useCatalogue()
  const words = (name: string) => name.replaceAll('_', ' ')

  function titleOf(node: string): string {
    const entry = graph.document.value.nodes[node]
    return entry?.title || operatorOf(entry)?.label || node
  }

  const all = computed(() => {
    const found: KeyedValue[] = []
    const add = (place: KeyedPlace, keyed: unknown, label: string) => {
      if (isKeyed(keyed)) found.push({ ...place, id: idOf(place), keyed, label })
    }
    for (const [name, dial] of Object.entries(graph.document.value.dials ?? {}))
      add({ node: '', parameter: name, control: '' }, dial.value, `dial ${words(name)}`)
    for (const [node, entry] of Object.entries(graph.document.value.nodes)) {
      for (const [parameter, value] of Object.entries(entry.parameters ?? {})) {
        add({ node, parameter, control: '' }, value, `${titleOf(node)}: ${words(parameter)}`)
        if (typeof value !== 'object' || value === null || isKeyed(value)) continue
        for (const [control, held] of Object.entries(value))
          add({ node, parameter, control }, held, `${titleOf(node)}: ${words(control)}`)
      }
    }
    return found
  })

  return {
    all,
    /** Those of the selected cards; all, where none is selected or none of these has any. */
    chosen: computed(() => {
      const own = all.value.filter((one) => cards.value.includes(one.node))
      return own.length ? own : all.value
    }),

    /** Store other keys, or a plain value; `done` is false while they are dragged. */
    change(made: [KeyedPlace, unknown][], label: string, done = true): void {
      const turn = (next: typeof graph.document.value) => {
        for (const [place, value] of made) put(next, place, value)
      }
      if (!done) return graph.preview(turn)
      graph.dropPreview()
      graph.edit(label, turn)
    },
  }
})

function put(document: ReturnType<typeof useGraph>['document']['value'], place: KeyedPlace, value: unknown): void {
  if (!place.node) {
    document.dials![place.parameter]!.value = value
    return
  }
  const parameters = document.nodes[place.node]!.parameters!
  if (!place.control) parameters[place.parameter] = value
  else parameters[place.parameter] = { ...(parameters[place.parameter] as object), [place.control]: value }
}
