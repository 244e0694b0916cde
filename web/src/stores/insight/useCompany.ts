/** Who else is at the open graph, what they look at, and their edits, as soon as they are made. */
import { createGlobalState } from '@vueuse/core'
import { computed, shallowRef, watch } from 'vue'
import { api, type Schemas } from '../../api/client'
import { goneOver, nameOf } from '../../model/company'
import { PAGE, useGraph } from '../useGraph'

type Person = Schemas['PersonState'] & { called: string }

const WAIT_S = 25
const PAUSE_MS = 3000

export const useCompany = createGlobalState(() => {
  const graph = useGraph()
  const people = shallowRef<Person[]>([])
  /** What others went over, to be told once. */
  const notices = shallowRef<string[]>([])
  let version = -1
  let newest = 0

  async function ask(id: string): Promise<void> {
    const found = await api.company(id, {
      page: PAGE,
      looking_at: graph.document.value.looking_at ?? '',
      level: graph.path.value.join('/'),
      revision: graph.state.value?.revision ?? 0,
      version,
      wait: WAIT_S,
    })
    if (graph.state.value?.id !== id) return
    version = found.version
    people.value = found.people.map((person, number) => ({ ...person, called: nameOf(person, number) }))
    if (found.graph) graph.receive(found.graph, found.edits)
    const over = goneOver(found.edits, graph.ownEdits())
    if (over.length) notices.value = over
  }

  /** Ask again and again, until the graph or what is looked at is another one: then whoever comes later asks. */
  async function stay(number: number): Promise<void> {
    for (let id = graph.state.value?.id; id && number === newest; id = graph.state.value?.id) {
      try {
        await ask(id)
      } catch {
        people.value = []
        await new Promise((wake) => setTimeout(wake, PAUSE_MS))
      }
    }
  }

  const here = computed(() =>
    [graph.state.value?.id ?? '', graph.path.value.join('/'), graph.document.value.looking_at ?? ''].join(' '),
  )
  let before = ''
  function begin(): void {
    const id = graph.state.value?.id ?? ''
    if (id !== before) {
      version = -1
      people.value = []
    }
    before = id
    void stay(++newest)
  }

  return {
    people,
    notices,
    /** Begin to tell and to hear; to be called once, when the page is there. */
    join(): void {
      watch(here, begin, { immediate: true })
    },
    /** Who looks at a card of the graph that is worked on. */
    lookers: (node: string): Person[] => {
      const level = graph.path.value.join('/')
      return people.value.filter((one) => one.level === level && one.looking_at.split(':')[0] === node)
    },
  }
})
