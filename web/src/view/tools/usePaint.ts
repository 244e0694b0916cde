/** Painting: a drag over the surface is a stroke of the selected paint card; shown while it is drawn, kept when it ends. */
import { useLocalStorage, useThrottleFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api } from '../../api/client'
import { answerTo, type AnswerTo } from '../../api/results'
import { shareOf } from '../../model/values/formula'
import { useEvaluation } from '../../stores/useEvaluation'
import { useSelectedCards } from '../../stores/useSelectedCards'
import { useGraph } from '../../stores/useGraph'
import { useCatalogue } from '../../stores/useCatalogue'
import { pressureOf, type PenMoment } from './pen'

type Place = [number, number, number]
export type Dab = [number, number, number, number]

const BRUSH = ['mode', 'radius', 'strength', 'value', 'color', 'hard', 'mirror'] as const

/** The radius of a brush in m: a number, or a share of the extent of the shape; the usual share for other formulas. */
export function radiusOf(value: unknown, usual: unknown, extent: number): number {
  if (typeof value === 'number') return value
  return (shareOf(value) ?? shareOf(usual) ?? 0.03) * extent
}

/** Whether a dab is far enough from the last one to be worth keeping. */
export function isApart(dabs: Dab[], place: Place, radius: number): boolean {
  const last = dabs.at(-1)
  return !last || Math.hypot(place[0] - last[0], place[1] - last[1], place[2] - last[2]) > radius / 4
}

export function usePaint(hit: (event: PointerEvent) => Place | null) {
  const graph = useGraph()
  const { operatorOf } = useCatalogue()
  const { reports } = useEvaluation()
  const { cards } = useSelectedCards()
  /** The paint card that is chosen. */
  const card = computed(() =>
    cards.value.length === 1 && graph.document.value.nodes[cards.value[0]!]?.operator === 'paint' && !graph.fixed.value
      ? cards.value[0]!
      : null,
  )
  const dabs = ref<Dab[]>([])
  const strokes = computed(() =>
    card.value
      ? ((graph.document.value.nodes[card.value]?.parameters?.strokes as object[] | undefined)?.length ?? 0)
      : 0,
  )
  /** A mouse paints as a simulated pen. */
  const simulated = useLocalStorage('reticula simulated pen', false)
  const pressure = ref(0)
  let felt: PenMoment | null = null

  function feel(event: PointerEvent): number {
    pressure.value = pressureOf(event, felt, simulated.value)
    felt = { x: event.clientX, y: event.clientY, at: event.timeStamp, pressure: pressure.value }
    return pressure.value
  }

  /** The size of the shape that is painted, m: a brush may be a share of it. */
  const extent = ref(1)
  watch(
    () => (card.value ? `${card.value} ${reports.value[card.value]?.key ?? ''}` : ''),
    async () => {
      const held = card.value ? await hold(card.value, []) : null
      if (held) extent.value = held.extent
    },
    { immediate: true },
  )

  /** The faces that hold some places of the world on what a card made, and where they are in its own space. */
  async function hold(node: string, places: Place[]): Promise<AnswerTo<'anchors'> | null> {
    const id = graph.state.value?.id
    const answer = id ? await api.looks(id, node, [{ what: 'anchors', places }], graph.basis()).catch(() => null) : null
    return answerTo('anchors', answer?.looks[0])
  }

  /** The brush of the card: plain values, the default where a formula stands. */
  function brush(): Record<string, unknown> {
    const node = graph.document.value.nodes[card.value!]!
    const declared = operatorOf(node)?.parameters ?? []
    return Object.fromEntries(
      BRUSH.map((name) => {
        const preset = declared.find((parameter) => parameter.name === name)?.default
        const value = node.parameters?.[name] ?? preset
        if (name === 'radius') return [name, radiusOf(value, preset, extent.value)]
        return [name, typeof value === 'object' && !Array.isArray(value) ? preset : value]
      }),
    )
  }

  function addStroke(next: typeof graph.document.value, at: string, stroke: object) {
    const node = next.nodes[at]!
    node.parameters = { ...node.parameters, strokes: [...((node.parameters?.strokes as object[]) ?? []), stroke] }
  }
  const drawn = () => ({ ...brush(), dabs: dabs.value, world: true })
  const show = useThrottleFn(
    () => dabs.value.length && graph.preview((next) => addStroke(next, card.value!, drawn())),
    110,
    true,
  )

  let keeping = Promise.resolve()
  /** Keep a stroke: held by the faces it was drawn on, or where it is in the world if that cannot be told. */
  async function keep(at: string, stroke: { dabs: Dab[] }) {
    const held = await hold(
      at,
      stroke.dabs.map((dab) => dab.slice(0, 3) as Place),
    )
    if (!graph.document.value.nodes[at]) return
    const own = held?.places.map((place, i) => [...place, stroke.dabs[i]![3]])
    const kept = held ? { ...stroke, dabs: own, anchors: held.anchors, world: undefined } : stroke
    graph.dropPreview()
    graph.edit('paint a stroke', (next) => addStroke(next, at, JSON.parse(JSON.stringify(kept)) as object))
  }

  return {
    card,
    strokes,
    simulated,
    pressure,
    /** Take all strokes back, in one step. */
    reset: () =>
      card.value &&
      graph.edit('take all strokes back', (next) => void delete next.nodes[card.value!]!.parameters!.strokes),
    begin(event: PointerEvent): boolean {
      const place = card.value ? hit(event) : null
      if (!place) return false
      felt = null
      dabs.value = [[...place, feel(event)]]
      void show()
      return true
    },
    move(event: PointerEvent): void {
      if (!dabs.value.length) return
      const place = hit(event)
      if (!place || !isApart(dabs.value, place, Number(brush().radius))) return
      dabs.value = [...dabs.value, [...place, feel(event)]]
      void show()
    },
    end(): void {
      if (!dabs.value.length || !card.value) return
      const [at, stroke] = [card.value, drawn()]
      keeping = keeping.then(() => keep(at, stroke))
      dabs.value = []
      pressure.value = 0
    },
  }
}
