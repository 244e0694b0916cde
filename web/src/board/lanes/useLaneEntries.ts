/** What the list of lanes holds: nodes in the order of evaluation, frames as headings, and what is inside of nodes that are folded out. */
import { computed, ref, type Ref } from 'vue'
import { fit } from '../../model/actions'
import { nodeLine, structureOf, type GraphDocument, type GraphNode } from '../../model/document'
import { memo } from '../../shared/memo'
import { laneRows, lanesWide, type LaneRow, type Running } from '../../model/lanes'
import { useCatalogue } from '../../stores/useCatalogue'
import { useGraph } from '../../stores/useGraph'

export interface NodeEntry {
  kind: 'node'
  key: string
  id: string
  node: GraphNode
  /** The nodes that one goes through to it, from the graph that is worked on; none for its own. */
  path: string[]
  row: LaneRow
  /** The first lane of its graph, and what runs past to its left. */
  first: number
  beside: Running[]
  frame: string | null
  /** The graph that it is in. */
  graph: GraphDocument
}

export interface FrameEntry {
  kind: 'frame'
  key: string
  frame: string
  title: string
  note: string
  beside: Running[]
}

export type Entry = NodeEntry | FrameEntry

/** Whether an entry is a node of the graph that is worked on. */
export const isOwn = (entry: Entry | undefined): entry is NodeEntry => entry?.kind === 'node' && !entry.path.length

export function useLaneEntries(words: Readonly<Ref<string>>) {
  const graph = useGraph()
  const { operatorOf } = useCatalogue()
  /** Nodes that are folded out, by their way. */
  const unfolded = ref<ReadonlySet<string>>(new Set())

  const titleOf = (node: GraphNode) => node.title || operatorOf(node)?.label || node.operator
  const rowsOf = (document: GraphDocument) =>
    laneRows(document, (id) => operatorOf(document.nodes[id])?.makes_value ?? false)
  /** Rows change with wires, not with values: what is dragged leaves them as they are. */
  const kept = memo<LaneRow[]>()
  const rows = computed(() => kept(structureOf(graph.document.value), () => rowsOf(graph.document.value)))

  function listed(document: GraphDocument, own: LaneRow[], path: string[], first: number, beside: Running[]): Entry[] {
    const frameOf = new Map<string, string>()
    for (const [name, frame] of Object.entries(document.frames ?? {}))
      for (const id of frame.nodes) if (!frameOf.has(id)) frameOf.set(id, name)
    const wide = lanesWide(own)
    let last: string | null = null
    const begun = new Set<string>()
    return own.flatMap((row, at) => {
      const node = document.nodes[row.id]!
      const frame = frameOf.get(row.id) ?? null
      const key = [...path, row.id].join('/')
      const made: Entry[] = []
      if (frame && frame !== last) {
        const { title, note } = document.frames![frame]!
        const running = [...beside, ...(own[at - 1]?.after ?? []).map((one) => ({ ...one, lane: one.lane + first }))]
        made.push({
          kind: 'frame',
          key: `${key} heading`,
          frame,
          title: begun.has(frame) ? `${title || 'Frame'}, going on` : title || 'Frame',
          note: begun.has(frame) ? '' : (note ?? ''),
          beside: running,
        })
      }
      last = frame
      if (frame) begun.add(frame)
      made.push({ kind: 'node', key, id: row.id, node, path, row, first, beside, frame, graph: document })
      if (node.graph && unfolded.value.has(key)) {
        const running = [...beside, ...row.after.map((one) => ({ ...one, lane: one.lane + first }))]
        made.push(...listed(node.graph, rowsOf(node.graph), [...path, row.id], first + wide + 1, running))
      }
      return made
    })
  }

  const all = computed(() => listed(graph.document.value, rows.value, [], 0, []))
  const entries = computed(() => {
    if (!words.value.trim()) return all.value
    return all.value.filter(
      (entry) =>
        entry.kind === 'node' &&
        fit(
          words.value,
          titleOf(entry.node),
          `${operatorOf(entry.node)?.label ?? ''} ${nodeLine(entry.node, operatorOf(entry.node))}`,
        ) > 0,
    )
  })
  /** Lanes side by side, those of folded-out graphs included. */
  const wide = computed(() =>
    all.value.reduce(
      (most, entry) => (entry.kind === 'node' ? Math.max(most, entry.first + entry.row.lane + 1) : most),
      1,
    ),
  )

  function turn(key: string) {
    const next = new Set(unfolded.value)
    if (!next.delete(key)) next.add(key)
    unfolded.value = next
  }

  /** The nodes of the graph that is worked on, whatever the words say. */
  const own = computed(() => all.value.filter(isOwn))

  return { own, entries, wide, unfolded, turn, titleOf }
}
