/** What is done to the chosen cards together: folded, framed, named, copied and pasted. */
import { ElMessageBox } from 'element-plus'
import { nextTick, type Ref } from 'vue'
import { cardsFromText, cardsToText, paste } from '../model/clipboard'
import { freeName } from '../model/document'
import { askName } from '../shared/askName'
import { useCatalogue } from '../stores/useCatalogue'
import { tell, useChanges } from '../stores/useChanges'
import { useGraph } from '../stores/useGraph'

interface Board {
  selected: Readonly<Ref<string[]>>
  select: (ids: string[]) => void
  follow: () => void
  /** Choose a card and move to it. */
  show: (id: string) => Promise<void>
}

export function useCardSets({ selected, select, follow, show }: Board) {
  const graph = useGraph()
  const changes = useChanges()
  const { operatorOf } = useCatalogue()

  /** Make one card of the chosen ones. */
  async function foldChosen() {
    const ids = selected.value
    const first = graph.document.value.nodes[ids[0]!]
    const title = await askName('Fold', 'Fold', {
      offered: ids.length === 1 ? (first?.title ?? operatorOf(first)?.label ?? '') : '',
      asked: `${ids.length} cards become one, which holds them. Its title:`,
    })
    if (!title) return
    follow()
    const made = await changes.make(`fold ${title}`, 'fold', { nodes: ids, title })
    if (made) void nextTick(() => select(made.cards))
  }

  /** Make another card that runs the graph of one, and choose it. */
  async function linkCopy(id: string) {
    const node = graph.document.value.nodes[id]
    const made = await changes.make(`linked copy of ${node?.title || operatorOf(node)?.label || id}`, 'link', {
      node: id,
    })
    if (made) await show(made.cards[0]!)
  }

  /** Put a frame around the chosen cards. */
  function frameChosen() {
    const ids = selected.value
    graph.edit('frame cards', (next) => {
      const key = freeName('frame', Object.keys(next.frames ?? {}))
      next.frames = { ...next.frames, [key]: { title: '', note: '', nodes: ids } }
    })
  }

  /** Name the chosen card as a place to jump to. */
  async function nameJump() {
    const id = selected.value[0]!
    const known = Object.entries(graph.document.value.jumps ?? {}).find(([, target]) => target === id)?.[0] ?? ''
    const answer = await ElMessageBox.prompt(
      'Its name, to jump to it from anywhere; empty takes it away:',
      'Jump point',
      { inputValue: known, confirmButtonText: 'Keep', cancelButtonText: 'Cancel' },
    ).catch(() => null)
    if (!answer) return
    const name = ((answer as { value?: string }).value ?? '').trim()
    graph.edit('name a jump point', (next) => {
      next.jumps = { ...next.jumps }
      if (known) delete next.jumps[known]
      if (name) next.jumps[name] = id
    })
  }

  /** The chosen cards as text. */
  function copy(): string {
    return cardsToText(graph.document.value, selected.value)
  }

  /** Put cards from a text into the graph. */
  async function pasteText(text: string) {
    const cards = cardsFromText(text)
    if (!cards) return tell('There are no cards in the clipboard.')
    let made: string[] = []
    graph.edit('paste cards', (next) => (made = paste(next, cards)))
    await nextTick()
    select(made)
  }

  return { foldChosen, linkCopy, frameChosen, nameJump, copy, pasteText }
}
