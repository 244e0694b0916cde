/** The wires between cards: drawn, connected, cut, and cards dropped into them. */
import type { Connection, EdgeMouseEvent, NodeDragEvent } from '@vue-flow/core'
import { computed, type Ref } from 'vue'
import {
  connect,
  disconnect,
  feedOf,
  inputsOf,
  insertInto,
  parameterOf,
  wires,
  wouldCircle,
  type Wire,
} from '../../model/document'
import { useCatalogue } from '../../stores/useCatalogue'
import { useGraph } from '../../stores/useGraph'

/** How far wires keep from cards, in pixels of the board: by what they come from, so that they can be told apart. */
const GAPS = [6.5, 3.5, 5]

function wireId(wire: Wire): string {
  return `${feedOf(wire)}>${wire.to}>${wire.input}`
}

/** Whether a drawn wire runs through a box of the screen. */
function runsThrough(path: SVGPathElement, box: DOMRect): boolean {
  const toScreen = path.getScreenCTM()
  const length = path.getTotalLength()
  return Array.from({ length: 25 }, (_, i) =>
    path.getPointAtLength((length * i) / 24).matrixTransform(toScreen ?? undefined),
  ).some(({ x, y }) => x > box.left && x < box.right && y > box.top && y < box.bottom)
}

export function useWires(chosenWire: Ref<string>, asked: Ref<string>) {
  const graph = useGraph()
  const { operatorOf } = useCatalogue()
  const gapOf = computed(() =>
    Object.fromEntries(Object.keys(graph.document.value.nodes).map((id, number) => [id, number])),
  )
  const edges = computed(() =>
    wires(graph.document.value).map((wire) => ({
      id: wireId(wire),
      source: wire.from,
      target: wire.to,
      sourceHandle: wire.output ?? firstOutput(wire.from),
      targetHandle: wire.input,
      type: 'wire',
      data: { wire, gap: GAPS[gapOf.value[wire.from]! % GAPS.length]! },
      class: [parameterOf(wire.input) === null ? '' : 'value', chosenWire.value === wireId(wire) ? 'chosen' : ''].join(
        ' ',
      ),
    })),
  )

  function canConnect({ source, target, targetHandle }: Connection): boolean {
    const carries = operatorOf(graph.document.value.nodes[source])?.makes_value ?? false
    if (carries !== (parameterOf(targetHandle ?? '') !== null)) return false
    return source !== target && !wouldCircle(graph.document.value, source, target)
  }

  function firstOutput(id: string): string {
    return operatorOf(graph.document.value.nodes[id])?.outputs[0]?.name ?? 'geo'
  }

  function onConnect({ source, target, sourceHandle, targetHandle }: Connection) {
    if (!targetHandle) return
    const node = graph.document.value.nodes[target]
    const many = inputsOf(node, operatorOf(node)).find((entry) => entry.name === targetHandle)?.many ?? false
    const output = sourceHandle && sourceHandle !== firstOutput(source) ? sourceHandle : undefined
    graph.edit('connect', (next) => connect(next, { from: source, output, to: target, input: targetHandle }, many))
  }

  function onDragStop({ nodes: moved, node }: NodeDragEvent) {
    const under = moved.length === 1 ? wireUnder(node.id) : null
    const entry = operatorOf(graph.document.value.nodes[node.id])?.inputs[0]
    if (under && entry && !wouldCircle(graph.document.value, under.from, node.id)) {
      graph.edit('put into a wire', (next) => {
        insertInto(next, under, node.id, entry.name)
        next.nodes[node.id]!.place = null
      })
      return
    }
    graph.edit(moved.length > 1 ? 'move cards' : 'move a card', (next) => {
      for (const one of moved) next.nodes[one.id]!.place = [Math.round(one.position.x), Math.round(one.position.y)]
    })
  }

  /** The wire that a dropped card lies on, if it has none of its own yet. */
  function wireUnder(id: string): Wire | null {
    const own = wires(graph.document.value).some((wire) => wire.from === id || wire.to === id)
    const box = document.querySelector(`[data-test="card-${CSS.escape(id)}"]`)?.getBoundingClientRect()
    if (own || !box) return null
    for (const drawn of document.querySelectorAll<SVGGElement>('.board .vue-flow__edge')) {
      const path = drawn.querySelector<SVGPathElement>('.vue-flow__edge-path')
      const wire = edges.value.find((edge) => edge.id === drawn.dataset.id)?.data.wire
      if (path && wire && parameterOf(wire.input) === null && runsThrough(path, box)) return wire
    }
    return null
  }

  function pickWire({ edge }: EdgeMouseEvent) {
    chosenWire.value = edge.id
    const wire = edges.value.find((entry) => entry.id === edge.id)?.data.wire
    asked.value = wire && parameterOf(wire.input) === null ? feedOf(wire) : ''
  }

  function cutWire(): boolean {
    const wire = edges.value.find((edge) => edge.id === chosenWire.value)?.data.wire
    chosenWire.value = ''
    asked.value = ''
    if (wire) graph.edit('disconnect', (next) => disconnect(next, wire))
    return !!wire
  }

  return { edges, canConnect, onConnect, onDragStop, pickWire, cutWire }
}
