/** A row dragged to another place: into the gap between two rows, onto the lane that runs there. What cannot be is said before it is dropped. */
import { computed, shallowRef, type Ref } from 'vue'
import { inputsOf } from '../../model/document'
import { moveInto } from '../../model/rewiring'
import { useCatalogue } from '../../stores/useCatalogue'
import { useGraph } from '../../stores/useGraph'
import type { Entry, NodeEntry } from './useLaneEntries'

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

export interface Ground {
  list: Ref<HTMLElement | undefined>
  entries: Readonly<Ref<Entry[]>>
  starts: Readonly<Ref<Float64Array>>
  rowAt: (y: number) => number
  step: Readonly<Ref<number>>
  titleOf: (id: string) => string
}

export function useLaneDrag({ list, entries, starts, rowAt, step, titleOf }: Ground) {
  const graph = useGraph()
  const { operatorOf } = useCatalogue()
  const dragged = shallowRef<Dragged | null>(null)
  let asked = ''
  let answer = ''

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
      if (entry?.kind === 'node' && !entry.path.length) return entry
    }
    return null
  }

  const belowOf = (above: NodeEntry) => {
    const own = entries.value.filter((entry): entry is NodeEntry => entry.kind === 'node' && !entry.path.length)
    return new Set(own.slice(own.indexOf(above) + 1).map((entry) => entry.id))
  }

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
    const key = [id, above.key, source, graph.state.value?.revision].join(' ')
    if (key !== asked) {
      asked = key
      const trial = structuredClone(JSON.parse(JSON.stringify(graph.document.value)) as typeof graph.document.value)
      answer = moveInto(trial, id, entryOf(id), { source, below: belowOf(above) })
    }
    return { ...place, lane, source, trouble: answer }
  }

  function grab(event: PointerEvent, id: string) {
    if (event.button !== 0 || (event.target as HTMLElement).closest('button, input, textarea, .controls')) return
    const head = event.currentTarget as HTMLElement
    const from = { x: event.clientX, y: event.clientY }
    const move = (now: PointerEvent) => {
      if (!dragged.value && Math.hypot(now.clientX - from.x, now.clientY - from.y) < SLACK) return
      if (!dragged.value) head.setPointerCapture(now.pointerId)
      dragged.value = at(id, now)
    }
    const end = (kept: boolean) => {
      head.removeEventListener('pointermove', move)
      window.removeEventListener('keydown', giveUp, true)
      const last = dragged.value
      if (!last) return
      // The click that ends a drag is not one on the row.
      window.addEventListener('click', (click) => click.stopPropagation(), { capture: true, once: true })
      setTimeout(() => (dragged.value = null))
      if (kept && last.above && !last.trouble) drop(last, last.above)
    }
    const giveUp = (key: KeyboardEvent) => {
      if (key.key !== 'Escape' || !dragged.value) return
      key.stopPropagation()
      end(false)
    }
    head.addEventListener('pointermove', move)
    head.addEventListener('pointerup', () => end(true), { once: true })
    head.addEventListener('pointercancel', () => end(false), { once: true })
    window.addEventListener('keydown', giveUp, true)
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
