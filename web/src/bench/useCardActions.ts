/** What is done to the chosen cards by key or from the finder. */
import { useEventListener } from '@vueuse/core'
import { nextTick } from 'vue'
import type { BoardSurface } from '../board/surface'
import { isWriting } from '../model/actions'
import { duplicateNodes, removeNodes } from '../model/document'
import { useGraph } from '../stores/useGraph'
import { useView } from '../stores/useView'

export function useCardActions(boardOf: () => BoardSurface | undefined) {
  const graph = useGraph()
  const view = useView()
  const chosen = (): string[] => boardOf()?.selected ?? []

  function onCards(
    label: string,
    change: (next: Parameters<Parameters<typeof graph.edit>[1]>[0], ids: string[]) => void,
  ) {
    const ids = chosen()
    if (ids.length) graph.edit(label, (next) => change(next, ids))
  }

  function remove() {
    if (boardOf()?.cutWire()) return
    onCards('remove cards', (next, ids) => removeNodes(next, ids))
  }

  function duplicate() {
    let copies: string[] = []
    onCards('duplicate cards', (next, ids) => (copies = duplicateNodes(next, ids)))
    if (copies.length) void nextTick(() => boardOf()?.select(copies))
  }

  function skip() {
    onCards('skip cards', (next, ids) => {
      for (const id of ids) next.nodes[id]!.skip = !next.nodes[id]!.skip
    })
  }

  function lookAt() {
    onCards('look at a card', (next, ids) => (next.looking_at = ids[0]))
  }

  function ghost() {
    const [id] = chosen()
    if (id) view.ghosts = view.ghosts.includes(id) ? view.ghosts.filter((one) => one !== id) : [...view.ghosts, id]
  }

  const haveCards = () => chosen().length > 0
  /** The one selected card, if it runs a graph; and if that can be published. */
  function nests(): string | null {
    const [id, more] = chosen()
    const node = id && !more ? graph.document.value.nodes[id] : undefined
    return node && (node.graph || node.operator.includes('@')) ? id! : null
  }
  /** The one selected card, if it holds a graph of its own or a linked one. */
  const holds = () => (nests() && graph.document.value.nodes[nests()!]!.graph ? nests() : null)
  const folded = () => (nests() && graph.document.value.nodes[nests()!]!.operator === 'folded' ? nests() : null)

  function onClipboard(event: ClipboardEvent) {
    if (isWriting(event.target) || window.getSelection()?.toString()) return
    if (event.type === 'paste') {
      const text = event.clipboardData?.getData('text') ?? ''
      if (text.trim()) void boardOf()?.pasteText(text)
    } else if (haveCards()) {
      event.clipboardData?.setData('text/plain', boardOf()?.copy() ?? '')
      if (event.type === 'cut') onCards('cut cards', (next, ids) => removeNodes(next, ids))
    } else return
    event.preventDefault()
  }
  for (const kind of ['copy', 'cut', 'paste'] as const) useEventListener(document, kind, onClipboard)

  return { remove, duplicate, skip, lookAt, ghost, haveCards, nests, holds, folded }
}
