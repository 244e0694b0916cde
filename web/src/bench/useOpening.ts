/** From the first request to a bench that has all it shows: nothing is put on the screen twice. */
import { createGlobalState } from '@vueuse/core'
import { computed, ref, watchEffect } from 'vue'
import { useCatalogue } from '../stores/useCatalogue'
import { useDemos } from '../stores/useDemos'
import { useEvaluation } from '../stores/useEvaluation'
import { useProject } from '../stores/useProject'
import { useSelection } from '../stores/useSelection'
import { useSession } from '../stores/useSession'
import { useTheme } from '../stores/useTheme'
import { useView } from '../stores/useView'
import { queriesFor } from '../view/data/resultQueries'

export const useOpening = createGlobalState(() => {
  const session = useSession()
  const opened = ref(false)
  const failure = ref('')
  let begun = false

  return {
    opened,
    trouble: computed(() => failure.value || session.trouble.value),

    /** Read catalogue, settings, project and graph, and begin to evaluate; once. */
    async open(): Promise<void> {
      if (begun) return
      begun = true
      const asked = location.search
      const evaluation = useEvaluation()
      const view = useView()
      const selection = useSelection()
      watchEffect(() => (evaluation.queries.value = queriesFor(view, selection.kind.value)))
      try {
        let begin = () => {}
        const there = new Promise<void>((done) => (begin = done))
        const project = useProject().start(() => {
          evaluation.follow()
          begin()
        })
        await Promise.all([useCatalogue().load(), useTheme().load(), Promise.race([there, project])])
        opened.value = true
        await project
        if (asked) await useDemos().follow(asked)
      } catch (error) {
        failure.value = error instanceof Error ? error.message : String(error)
      }
    },
  }
})
