/** Where a parameter has its value from: itself, a wire, a dial, or another parameter that it follows; and the ways to change that. */
import { computed, inject, ref } from 'vue'
import type { ParameterState } from '../../api/client'
import { isBound, isWired } from '../../model/document'
import { DRAGGED, followed, type Pair } from '../../model/parameterLinks'
import { tiesKey } from '../../stores/injectionKeys'
import { useCatalogue } from '../../stores/useCatalogue'
import { useChanges } from '../../stores/useChanges'
import { useGraph } from '../../stores/useGraph'

/** A parameter as it stands on a card. */
export interface PlacedParameter {
  id: string
  parameter: ParameterState
  value: unknown
}

export function useParameterSource(props: PlacedParameter, commit: (value: unknown) => void) {
  const graph = useGraph()
  const changes = useChanges()
  const { operatorOf } = useCatalogue()
  const ties = inject(tiesKey, ref(new Map<string, Pair[]>()))
  const choosing = ref(false)
  const over = ref(false)

  const titleOf = (id: string) => graph.document.value.nodes[id]?.title || id
  const wire = computed(() => (isWired(props.value) ? props.value.wire : null))
  const bound = computed(() => (isBound(props.value) ? props.value.dial : null))
  const source = computed(() => (props.parameter.widget === 'script' && !bound.value ? String(props.value) : null))
  const excerpt = computed(() =>
    (source.value ?? '')
      .split('\n')
      .filter((row) => row.trim())
      .slice(0, 5)
      .join('\n'),
  )
  const tied = computed(() => followed(props.value, graph.document.value))
  const followers = computed(() => ties.value.get(`${props.id}.${props.parameter.name}`) ?? [])
  const isText = computed(
    () =>
      (typeof props.value === 'object' && props.value !== null && 'formula' in props.value) ||
      (props.parameter.widget === 'where' && !!props.value),
  )
  const canBeDial = computed(
    () =>
      !['controls', 'edits', 'strokes'].includes(props.parameter.widget) &&
      graph.document.value.nodes[props.id]?.operator !== 'input',
  )

  /** Parameters of other cards that this one could follow. */
  const others = computed(() =>
    Object.entries(graph.document.value.nodes).flatMap(([node, entry]) =>
      node === props.id
        ? []
        : (operatorOf(entry)?.parameters ?? [])
            .filter((p) => ['number', 'integer', 'vector', 'toggle', 'choice', 'varying', 'text'].includes(p.widget))
            .map((p) => ({ value: `${node}.${p.name}`, label: `${titleOf(node)}: ${p.label}` })),
    ),
  )

  async function makeDial(up = 0) {
    await changes.make(`make ${props.parameter.label} a dial`, 'make dial', {
      node: props.id,
      parameter: props.parameter.name,
      up,
    })
  }

  async function follow(pair: Pair) {
    choosing.value = false
    await changes.make(`tie ${props.parameter.label} to ${pair.parameter}`, 'tie', {
      node: props.id,
      parameter: props.parameter.name,
      follows: pair.node,
      of: pair.parameter,
    })
  }

  function act(command: string) {
    if (command === 'dial') void makeDial()
    else if (command.startsWith('dial ')) void makeDial(Number(command.slice(5)))
    else if (command === 'follow') choosing.value = true
    else if (command === 'free')
      void changes.make(`set ${props.parameter.label} free`, 'set free', {
        node: props.id,
        parameter: props.parameter.name,
      })
    else if (command === 'reset') commit(props.parameter.default)
  }

  function drag(event: DragEvent) {
    event.dataTransfer?.setData(DRAGGED, JSON.stringify({ node: props.id, parameter: props.parameter.name }))
    if (event.dataTransfer) event.dataTransfer.effectAllowed = 'link'
  }

  function dragOver(event: DragEvent) {
    if (!event.dataTransfer?.types.includes(DRAGGED) || !props.parameter.takes_wire) return
    event.preventDefault()
    over.value = true
  }

  function drop(event: DragEvent) {
    over.value = false
    const text = event.dataTransfer?.getData(DRAGGED)
    if (!text) return
    event.preventDefault()
    event.stopPropagation()
    void follow(JSON.parse(text) as Pair)
  }

  function choose(other: string) {
    const [node, parameter] = other.split('.')
    if (node && parameter) void follow({ node, parameter })
  }

  return {
    choosing,
    over,
    titleOf,
    wire,
    bound,
    source,
    excerpt,
    tied,
    followers,
    isText,
    canBeDial,
    others,
    act,
    drag,
    dragOver,
    drop,
    choose,
  }
}
