/** Painting: a drag over the surface is a stroke of the selected paint card; shown while it is drawn, kept when it ends. */
import { useLocalStorage, useThrottleFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useSelectedCards } from '../../stores/useSelectedCards'
import { useGraph } from '../../stores/useGraph'
import { useCatalogue } from '../../stores/useCatalogue'
import { pressureOf, type PenMoment } from './pen'

type Place = [number, number, number]
export type Dab = [number, number, number, number]

const BRUSH = ['mode', 'radius', 'strength', 'value', 'color', 'hard', 'mirror'] as const

/** Whether a dab is far enough from the last one to be worth keeping. */
export function isApart(dabs: Dab[], place: Place, radius: number): boolean {
  const last = dabs.at(-1)
  return !last || Math.hypot(place[0] - last[0], place[1] - last[1], place[2] - last[2]) > radius / 4
}

export function usePaint(hit: (event: PointerEvent) => Place | null) {
  const graph = useGraph()
  const { operatorOf } = useCatalogue()
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

  /** The brush of the card: plain values, the default where a formula stands. */
  function brush(): Record<string, unknown> {
    const node = graph.document.value.nodes[card.value!]!
    const declared = operatorOf(node)?.parameters ?? []
    return Object.fromEntries(
      BRUSH.map((name) => {
        const preset = declared.find((parameter) => parameter.name === name)?.default
        const value = node.parameters?.[name] ?? preset
        return [name, typeof value === 'object' && !Array.isArray(value) ? preset : value]
      }),
    )
  }

  function withStroke(next: typeof graph.document.value) {
    const node = next.nodes[card.value!]!
    node.parameters = {
      ...node.parameters,
      strokes: [...((node.parameters?.strokes as object[]) ?? []), { ...brush(), dabs: dabs.value }],
    }
  }
  const show = useThrottleFn(() => dabs.value.length && graph.preview(withStroke), 110, true)

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
      graph.dropPreview()
      graph.edit('paint a stroke', withStroke)
      dabs.value = []
      pressure.value = 0
    },
  }
}
