/** The handles of the selected card in the view: which there are, which one is held, and what its moves change. */
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../../api/client'
import { useEvaluation } from '../../stores/useEvaluation'
import { setParameter, splitFeed } from '../../model/document'
import { useSelectedCards } from '../../stores/useSelectedCards'
import { useGraph } from '../../stores/useGraph'
import { useTime } from '../../stores/useTime'
import { useHeldPlace } from '../../stores/useHeldPlace'
import { isShown, useCatalogue } from '../../stores/useCatalogue'
import { answerTo } from '../../api/results'
import type { Handle } from './handle'
import { isTriple, targetsOf, withMoved, type Triple } from '../../model/values/handleValues'

const IDENTITY = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
/** `size` gives how large the picture's shape is, in m. */
export function useHandle(handle: () => Handle | undefined, size: () => number) {
  const graph = useGraph()
  const which = useHeldPlace()
  const snapping = ref(false)
  const { operatorOf } = useCatalogue()
  const { cards } = useSelectedCards()
  const { reports, keyed } = useEvaluation()
  const time = useTime()
  const matrix = shallowRef(IDENTITY)
  const id = computed(() => (cards.value.length === 1 && !graph.fixed.value ? cards.value[0]! : ''))
  const node = computed(() => graph.document.value.nodes[id.value])
  const declared = computed(() => operatorOf(node.value))
  const values = computed(() =>
    Object.fromEntries(
      (declared.value?.parameters ?? []).map((parameter) => [
        parameter.name,
        time.now(
          node.value?.parameters?.[parameter.name] ?? parameter.default,
          keyed.value.nodes[id.value]?.[parameter.name],
        ),
      ]),
    ),
  )
  const targets = computed(() =>
    declared.value
      ? targetsOf(declared.value, values.value, (parameter) => isShown(parameter, declared.value!, values.value))
      : [],
  )
  const held = computed(() => targets.value[Math.min(which.value, targets.value.length - 1)] ?? null)
  const feed = computed(() => Object.values(node.value?.inputs ?? {}).flat()[0] ?? '')

  watch(id, () => (which.value = 0))
  watch(snapping, (on) => handle()?.snap(on))

  /** Where the space of the card's input lies in the world. */
  watch(
    () => [targets.value.length > 0 && feed.value, reports.value[splitFeed(feed.value).from]?.key],
    async () => {
      const asked = feed.value
      const answer =
        asked && targets.value.length && graph.state.value
          ? await api.looks(graph.state.value.id, asked, [{ what: 'place' }], graph.basis()).catch(() => null)
          : null
      if (asked === feed.value) matrix.value = answerTo('place', answer?.looks[0])?.matrix ?? IDENTITY
    },
    { immediate: true },
  )

  function change(moved: unknown, name: string, done: boolean, label: string) {
    const at = id.value
    const parameter = declared.value?.parameters.find((each) => each.name === name)
    const preset = parameter?.default
    const value = time.turned(node.value?.parameters?.[name], moved, parameter?.widget ?? '')
    if (!done) return graph.preview((next) => setParameter(next, at, name, value, preset))
    graph.dropPreview()
    graph.edit(label, (next) => setParameter(next, at, name, value, preset))
  }

  watch([held, matrix], () => {
    const target = held.value
    const grip = handle()
    if (!grip || grip.busy) return
    if (!target) return grip.show(null, null)
    const reach = target.shape === 'direction' || target.shape === 'plane' ? size() * 0.3 : 0
    const others =
      target.shape === 'places'
        ? targets.value.filter((each) => each.name === target.name).map((each) => each.value)
        : []
    grip.show(
      { ...target, reach, others, matrix: target.space === 'world' ? IDENTITY : matrix.value },
      (value, done) => {
        const now = held.value
        if (now) change(withMoved(values.value[now.name], now, value), now.name, done, `move ${now.label}`)
      },
    )
  })

  return {
    targets,
    held,
    which,
    snapping,
    /** The list of places of the selected card, if it has one: clicks in the view can go on with it. */
    places: computed(
      () => declared.value?.parameters.find((parameter) => parameter.handle?.shape === 'places') ?? null,
    ),
    matrix,

    /** Go on with the list of places: at the end, in the card's own space. */
    addPlace(place: Triple) {
      const parameter = declared.value?.parameters.find((each) => each.handle?.shape === 'places')
      if (!parameter) return
      const old = (values.value[parameter.name] as unknown[]).filter(isTriple)
      change([...old, place], parameter.name, true, 'add a place')
      which.value = targets.value.findIndex((target) => target.index === old.length)
    },
  }
}
