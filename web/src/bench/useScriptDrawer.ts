/** The drawer below the view: the ledger, or the text of a script. */
import { computed, provide, ref, watch, type Ref } from 'vue'
import { scriptKey } from '../stores/injectionKeys'
import { useGraph } from '../stores/useGraph'
import { useTime } from '../stores/useTime'
import { useSplit } from './useSplit'

const room = () => window.innerHeight - 240

export function useScriptDrawer(chosenCards: Readonly<Ref<string[]>>) {
  const graph = useGraph()
  const ledgerSplit = useSplit('ledger height', 226, 34, room, 'y', -1)
  const scriptSplit = useSplit('script height', 320, 34, room, 'y', -1)
  const isScript = (id: string) => graph.document.value.nodes[id]?.operator === 'script'

  /** The script whose text is in the drawer, instead of the ledger. */
  const writing = ref<string | null>(null)
  provide(scriptKey, (node) => (writing.value = node))
  const written = computed(() => (writing.value && isScript(writing.value) ? writing.value : null))
  /** A script card that is chosen, whose text could be shown. */
  const scriptCard = computed(() => chosenCards.value.find(isScript) ?? null)
  watch(scriptCard, (id) => {
    if (id && writing.value) writing.value = id
  })

  const { curves } = useTime()
  watch(curves, (shown) => shown && (ledgerSplit.closed.value = false))
  watch(writing, (node) => node && (curves.value = false))
  const isText = computed(() => written.value && !curves.value)
  return { writing, written, scriptCard, drawerSplit: computed(() => (isText.value ? scriptSplit : ledgerSplit)) }
}
