/** Why an element has a value: asked of the shown result, then of each value that went in, one node back at a time. */
import { createGlobalState } from '@vueuse/core'
import { ref, shallowRef, watch } from 'vue'
import { api } from '../../api/client'
import { answerTo, troubleOf, type Kind, type Why, type WhyValue } from '../../api/results'
import { splitFeed } from '../../model/document'
import { useEvaluation } from '../useEvaluation'
import { useGraph } from '../useGraph'
import { useInspection } from '../useInspection'
import { useSelectedCards } from '../useSelectedCards'

type Asked = Pick<WhyValue, 'feed' | 'kind' | 'element' | 'name'>

export const useWhy = createGlobalState(() => {
  const graph = useGraph()
  const { shownNode, looks } = useEvaluation()
  const { panel } = useInspection()
  const { traced } = useSelectedCards()
  /** What was asked, from the value that one began with to the one that is looked at now. */
  const asked = shallowRef<Asked[]>([])
  const answers = shallowRef<Why[]>([])
  const trouble = ref('')
  const waiting = ref(false)
  let newest = 0

  /** Answers of the beginning of the chain that were given before, as long as the results are the same. */
  let given: { asked: Asked; why: Why }[] = []

  async function refresh(anew: boolean): Promise<void> {
    const id = graph.state.value?.id
    const number = ++newest
    if (anew) given = []
    const same = asked.value.findIndex((one, at) => given[at]?.asked !== one)
    given = given.slice(0, same < 0 ? asked.value.length : same)
    trouble.value = ''
    if (!id || !asked.value.length) return void (answers.value = [])
    waiting.value = true
    try {
      for (const one of asked.value.slice(given.length)) {
        const { feed, ...about } = one
        const answer = (await api.looks(id, feed, [{ what: 'why', ...about }], graph.basis())).looks[0]
        if (number !== newest) return
        trouble.value = answer?.what === 'missing' ? 'There is no result to ask about.' : troubleOf(answer)
        const why = answerTo('why', answer)
        if (!why) break
        given = [...given, { asked: one, why }]
      }
      answers.value = given.map((one) => one.why)
    } catch (error) {
      trouble.value = error instanceof Error ? error.message : String(error)
    } finally {
      if (number === newest) waiting.value = false
    }
  }

  watch(asked, () => void refresh(false))
  watch(
    () => looks.value?.key,
    () => panel.value === 'why' && void refresh(true),
  )
  watch([() => graph.state.value?.id, () => graph.path.value.join('/')], () => (asked.value = []))
  watch([panel, answers], ([now], [before]) => {
    if (now === 'why') traced.value = new Set(answers.value.map((why) => splitFeed(why.wrote.feed).from))
    else if (before === 'why') traced.value = new Set()
  })

  return {
    asked,
    answers,
    trouble,
    waiting,

    /** Ask about a value of the result that is looked at. */
    begin(kind: Kind, element: number, name: string): void {
      if (!shownNode.value) return
      asked.value = [{ feed: shownNode.value, kind, element, name }]
      panel.value = 'why'
    },

    /** Ask about a value that went into the one at a place in the chain; what came after that is dropped. */
    goOn(at: number, value: Asked): void {
      const { feed, kind, element, name } = value
      asked.value = [...asked.value.slice(0, at + 1), { feed, kind, element, name }]
    },

    /** Back to the value at a place in the chain. */
    backTo(at: number): void {
      asked.value = asked.value.slice(0, at + 1)
    },
  }
})
