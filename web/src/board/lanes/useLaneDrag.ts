/** A row dragged to another place: into the gap between two rows, onto the lane that runs there. What cannot be is said before it is dropped. */
import { computed, shallowRef, type Ref } from 'vue'
import { inputsOf, type GraphDocument } from '../../model/document'
import { moveInto } from '../../model/rewiring'
import { useCatalogue } from '../../stores/useCatalogue'
import { useGraph } from '../../stores/useGraph'
import { isOwn, type Entry, type NodeEntry } from './useLaneEntries'

interface Dragged {
  id: string
  x: number
  y: number
  /** The row above the gap; none above the first one. */
  above: NodeEntry | null
  /** The lane that the row would hang on, and the node whose result runs there. */
  lane: number
  source: string
  /** Why it cannot be dropped here; nothing if it can. */
  trouble: string
}

/** Pixels that a pointer moves before a click is a drag. */
const SLACK = 5

/** The click that ends a drag is not one on the row; it comes before any timer. */
function swallowClick() {
  const stop = (click: Event) => click.stopPropagation()
  window.addEventListener('click', stop, { capture: true, once: true })
  setTimeout(() => window.removeEventListener('click', stop, true))
}

export interface Ground {
  list: Ref<HTMLElement | undefined>
  entries: Readonly<Ref<Entry[]>>
  /** All nodes of the graph in their order, those that a filter hides too. */
  own: Readonly<Ref<NodeEntry[]>>
  starts: Readonly<Ref<Float64Array>>
  rowAt: (y: number) => number
  step: Readonly<Ref<number>>
  titleOf: (id: string) => string
}

export function useLaneDrag({ list, entries, own, starts, rowAt, step, titleOf }: Ground) {
  const graph = useGraph()
  const { operatorOf } = useCatalogue()
  const dragged = shallowRef<Dragged | null>(null)
  /** What was asked last whether it can be, and the answer: a pointer asks many times at one place. */
  let asked: { of: GraphDocument; key: string; answer: string } | null = null

  /** The input that a node's chain runs through. */
  function entryOf(id: string): string | undefined {
    const node = graph.document.value.nodes[id]
    const operator = operatorOf(node)
    return operator?.makes_value ? undefined : inputsOf(node, operator)[0]?.name
  }

  /** The last row of this graph that stands above a height, or at it. */
  function aboveOf(y: number): NodeEntry | null {
    const row = rowAt(y)
    const middle = (starts.value[row]! + (starts.value[row + 1] ?? starts.value[row]!)) / 2
    for (let at = y > middle ? row : row - 1; at >= 0; at--) {
      const entry = entries.value[at]
      if (isOwn(entry)) return entry
    }
    return null
  }

  const belowOf = (above: NodeEntry) => new Set(own.value.slice(own.value.indexOf(above) + 1).map((entry) => entry.id))

  function at(id: string, event: PointerEvent): Dragged {
    const box = list.value!.getBoundingClientRect()
    const [x, y] = [event.clientX - box.left, event.clientY - box.top + list.value!.scrollTop]
    const above = aboveOf(y)
    const place = { id, x, y, above, lane: 0, source: '', trouble: '' }
    if (graph.fixed.value) return { ...place, trouble: graph.whyFixed() }
    if (!above) return { ...place, trouble: 'nothing runs above the first row' }
    const running = above.row.after.filter((one) => !one.value)
    const wanted = x < (above.row.after.length + 2) * step.value + 10 ? (x - 8) / step.value : above.row.lane
    const nearest = [...running].sort((a, b) => Math.abs(a.lane - wanted) - Math.abs(b.lane - wanted))[0]
    const [lane, source] = nearest ? [nearest.lane, nearest.from] : [above.row.lane, above.id]
    const key = `${id} ${above.key} ${source}`
    const of = graph.document.value
    if (asked?.of !== of || asked.key !== key)
      asked = { of, key, answer: moveInto({ ...of }, id, entryOf(id), { source, below: belowOf(above) }) }
    return { ...place, lane, source, trouble: asked.answer }
  }

  function grab(event: PointerEvent, id: string) {
    if (event.button !== 0 || (event.target as HTMLElement).closest('button, input, textarea, .controls')) return
    const head = (event.target as HTMLElement).closest<HTMLElement>('[data-at]')!
    const from = { x: event.clientX, y: event.clientY }
    const listening = new AbortController()
    const { signal } = listening
    let begun = false

    head.addEventListener('pointermove', move, { signal })
    head.addEventListener('pointerup', release, { signal })
    head.addEventListener('pointercancel', giveUp, { signal })
    window.addEventListener('keydown', key, { signal, capture: true })

    function move(now: PointerEvent) {
      if (begun && !dragged.value) return
      if (!begun && Math.hypot(now.clientX - from.x, now.clientY - from.y) < SLACK) return
      if (!begun) head.setPointerCapture(now.pointerId)
      begun = true
      dragged.value = at(id, now)
    }
    function release() {
      listening.abort()
      if (!begun) return
      swallowClick()
      const last = dragged.value
      giveUp()
      if (last?.above && !last.trouble) drop(last, last.above)
    }
    function giveUp() {
      dragged.value = null
    }
    function key(pressed: KeyboardEvent) {
      if (pressed.key !== 'Escape' || !dragged.value) return
      pressed.stopPropagation()
      giveUp()
    }
  }

  function drop({ id, source }: Dragged, above: NodeEntry) {
    const below = belowOf(above)
    graph.edit(`move ${titleOf(id)}`, (next) => void moveInto(next, id, entryOf(id), { source, below }))
  }

  /** Where the row would come, in pixels, and what is said about it. */
  const target = computed(() => {
    const now = dragged.value
    if (!now) return null
    const row = now.above ? entries.value.indexOf(now.above) : -1
    return {
      ...now,
      top: starts.value[row + 1] ?? 0,
      left: now.lane * step.value + 8,
      said: now.trouble ? `not here: ${now.trouble}` : `after ‘${titleOf(now.source)}’`,
    }
  })

  return { target, grab }
}
