/** What is known of one card: its node, its operator, and what became of it in the last evaluation. */
import { computed } from 'vue'
import { timeInParts } from '../../model/timing'
import { duration } from '../../shared/numbers'
import { inputsOf, isWired, nodeLine, splitFeed } from '../../model/document'
import { isShown, useCatalogue } from '../../stores/useCatalogue'
import { useEvaluation } from '../../stores/useEvaluation'
import { useGraph } from '../../stores/useGraph'
import { useTime } from '../../stores/useTime'

export type CardState = ReturnType<typeof useCard>

const COUNTED = ['points', 'faces', 'curves', 'instances'] as const

export function useCard(id: string) {
  const graph = useGraph()
  const { reports, keyed, timely } = useEvaluation()
  const moments = useTime()
  const { operatorOf } = useCatalogue()

  const node = computed(() => graph.document.value.nodes[id])
  const declared = computed(() => operatorOf(node.value))
  const report = computed(() => reports.value[id])
  const lookedAt = computed(() => splitFeed(graph.document.value.looking_at ?? ''))
  const looking = computed(() => lookedAt.value.from === id)
  const outputs = computed(() => declared.value?.outputs ?? [])
  const title = computed(() => node.value?.title || declared.value?.label || node.value?.operator || '')
  const isValue = computed(() => declared.value?.makes_value ?? false)
  /** Whether the card runs a graph, its own or a published one. */
  const runsGraph = computed(() => !!declared.value && (declared.value.holds_graph || !!declared.value.published))

  const values = computed(() =>
    Object.fromEntries(
      (declared.value?.parameters ?? []).map((p) => [p.name, node.value?.parameters?.[p.name] ?? p.default]),
    ),
  )
  /** The same at the frame that is shown: what values with keys are there. */
  const valuesNow = computed(() =>
    Object.fromEntries(
      Object.entries(values.value).map(([name, value]) => [name, moments.now(value, keyed.value.nodes[id]?.[name])]),
    ),
  )
  const visible = computed(
    () => declared.value?.parameters.filter((p) => isShown(p, declared.value!, valuesNow.value)) ?? [],
  )
  /** The parameters that value nodes feed. */
  const wired = computed(() =>
    Object.entries(values.value)
      .filter(([, value]) => isWired(value))
      .map(([name]) => name),
  )

  const warnings = computed(() => report.value?.notes.filter((note) => note.level === 'warning') ?? [])
  const notes = computed(() => report.value?.notes.filter((note) => note.level === 'note') ?? [])
  const failedAt = computed(() => (report.value?.state === 'failed' ? report.value.error?.parameter : null))
  const message = computed(() => (report.value?.state === 'failed' ? report.value.error?.message : ''))

  return {
    id,
    node,
    declared,
    report,
    looking,
    outputs,
    title,
    isValue,
    runsGraph,
    values,
    valuesNow,
    visible,
    /** Whether its result may differ from frame to frame. */
    isTimely: computed(() => timely.value.has(id)),
    wired,
    warnings,
    notes,
    failedAt,
    message,
    inputs: computed(() => inputsOf(node.value, declared.value)),
    /** The output that the view shows, if it shows this card. */
    shownOutput: computed(() => (looking.value ? (lookedAt.value.output ?? outputs.value[0]?.name) : '')),

    /** What the node does: its operator if the title does not say so, and the values that differ from the defaults. */
    line: computed(() => {
      const said = node.value ? nodeLine(node.value, declared.value) : ''
      const operator = node.value?.title ? declared.value?.label : ''
      return [operator, said].filter(Boolean).join(' · ') || declared.value?.summary || ''
    }),

    /** What a value node writes. */
    writes: computed(() => (isValue.value ? (report.value?.notes[0]?.text ?? '').split('\n').at(-1) : '')),

    time: computed(() =>
      report.value?.state !== 'done' ? '' : node.value?.skip ? 'skipped' : duration(report.value.seconds),
    ),
    timeHelp: computed(() => {
      const what = report.value?.cached ? 'taken from the cache; this is how long it took to make' : 'time to evaluate'
      return [what, timeInParts(report.value?.parts ?? {}, report.value?.seconds ?? 0)].filter(Boolean).join('\n')
    }),

    /** How many elements of each kind there are, and the change from the input. */
    numbers: computed(() =>
      COUNTED.map((kind) => ({
        kind: kind.slice(0, -1),
        count: report.value?.counts?.[kind] ?? 0,
        change: report.value?.change?.[kind] ?? 0,
      })).filter((entry) => entry.count || entry.change),
    ),

    /** Numbers that a closed card keeps in sight: how many a group holds, or the range of values. */
    inSight: computed(() => {
      const family = declared.value?.family
      if (family === 'groups') return notes.value.at(-1)?.text ?? ''
      return family === 'attributes' ? (notes.value[0]?.text ?? '') : ''
    }),

    /** How many faces (or points, or curves) an output holds. */
    outputCount(name: string): { kind: string; count: number } {
      const counts = report.value?.outputs?.[name] ?? {}
      const kind = (['faces', 'curves', 'instances', 'points'] as const).find((each) => counts[each]) ?? 'points'
      return { kind: kind.slice(0, -1), count: counts[kind] ?? 0 }
    },

    /** What is wrong with one parameter, without its name in front. */
    errorOf(name: string): string {
      if (failedAt.value !== name || !message.value) return ''
      return message.value.startsWith(`${name}: `) ? message.value.slice(name.length + 2) : message.value
    },
  }
}
