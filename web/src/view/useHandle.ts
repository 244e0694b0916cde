/** A place among the selected card's parameters, as a handle in the view. */
import { computed, ref, watch } from 'vue'
import { setParameter } from '../board/document'
import { useChosen } from '../board/useChosen'
import { useGraph } from '../board/useGraph'
import { useCatalogue } from '../catalogue/useCatalogue'
import type { Handle, Place } from './handle'

/** Vectors that are places or ways in m, which a handle can stand for. */
const PLACES = /^(move|around|center|centre|point|begin|end|origin|offset|stands_at|through)$/

export function useHandle(handle: () => Handle | undefined) {
  const graph = useGraph()
  const { operatorOf } = useCatalogue()
  const { cards } = useChosen()
  const which = ref(0)
  const snapping = ref(false)

  const places = computed(() => {
    const id = cards.value.length === 1 ? cards.value[0]! : ''
    const node = graph.document.value.nodes[id]
    const declared = operatorOf(node)
    return (declared?.parameters ?? []).flatMap((parameter) => {
      const value = node!.parameters?.[parameter.name] ?? parameter.default
      const fits = PLACES.test(parameter.name) && Array.isArray(value) && value.length === 3 && value.every((part) => typeof part === 'number')
      return fits && !graph.fixed.value ? [{ id, name: parameter.name, label: parameter.label, value: value as Place, preset: parameter.default }] : []
    })
  })
  const shown = computed(() => places.value[which.value % Math.max(places.value.length, 1)] ?? null)
  watch(() => cards.value.join(), () => (which.value = 0)) // prettier-ignore
  watch(snapping, (on) => handle()?.snap(on ? 0.05 : null))

  watch(shown, (now) => {
    handle()?.show(now?.value ?? null, now && ((place, done) => {
      if (!done) return graph.preview((next) => setParameter(next, now.id, now.name, place, now.preset))
      graph.dropPreview()
      graph.edit(`move ${now.label}`, (next) => setParameter(next, now.id, now.name, place, now.preset))
    })) // prettier-ignore
  })
  return { places, shown, which, snapping }
}
