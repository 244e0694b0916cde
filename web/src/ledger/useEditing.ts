/** Changes made in the ledger: each is a card after the one that is looked at, so that the graph tells what was done. */
import { ElMessageBox } from 'element-plus'
import { inject } from 'vue'
import { api, type AttributeTypeState } from '../api/client'
import { answerTo, troubleOf, type Kind } from '../api/results'
import { useEvaluation } from '../stores/useEvaluation'
import { splitFeed } from '../model/document'
import { addCardKey } from '../stores/injectionKeys'
import { tell } from '../stores/useChanges'
import { useGraph } from '../stores/useGraph'
import { plainText } from '../shared/plainText'

/** Read a text typed into a cell as a value that is shown in a way; null if it is none. */
export function readCell(text: string, shown: AttributeTypeState['shown']): unknown {
  const plain = text.trim()
  if (shown === 'text') return text
  if (shown === 'flag') return { yes: true, no: false, '1': true, '0': false, '·': false }[plain.toLowerCase()] ?? null
  const number = Number(plain.replace('−', '-').replace(',', '.'))
  if (!plain || !Number.isFinite(number)) return null
  return shown === 'integer' ? (Number.isInteger(number) ? number : null) : number
}

/** Return rows as comma-separated values (RFC 4180). */
export function toCsv(head: string[], rows: unknown[][]): string {
  const cell = (value: unknown) => {
    const text = Array.isArray(value) ? value.join(' ') : plainText(value)
    return /[",\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text
  }
  return [head, ...rows].map((row) => row.map(cell).join(',')).join('\r\n')
}

export function useEditing() {
  const addCard = inject(addCardKey, () => {})
  const graph = useGraph()
  const { shownNode } = useEvaluation()

  async function ask(title: string, text: string, value = ''): Promise<string> {
    const answer = await ElMessageBox.prompt(text, title, {
      inputValue: value,
      inputPattern: /^[^\W\d]\w*$/,
      inputErrorMessage: 'Use letters, digits and _, not starting with a digit.',
      confirmButtonText: 'Do it',
      cancelButtonText: 'Cancel',
    }).catch(() => null)
    return ((answer as { value?: string } | null)?.value ?? '').trim()
  }

  return {
    /** Set one element's value: in the card that is looked at if it edits this attribute, else in a new one. */
    async edit(kind: Kind, name: string, element: number, value: unknown): Promise<void> {
      const id = graph.state.value?.id
      const feed = shownNode.value
      if (!id || !feed) return
      const look = (await api.looks(id, feed, [{ what: 'names', kind, elements: [element] }], graph.basis())).looks[0]
      const names = answerTo('names', look)?.names
      if (!names) return tell(troubleOf(look))
      const identity = names[0]!.replace(/[+:].*/, '')
      const at = splitFeed(feed).from
      const node = graph.document.value.nodes[at]
      const mine =
        node?.operator === 'edit_values' &&
        (node.parameters?.kind ?? 'point') === kind &&
        node.parameters?.name === name
      if (!mine) return addCard('edit_values', { kind, name, edits: { [identity]: value } })
      graph.edit(`edit ${name}`, (next) => {
        const parameters = next.nodes[at]!.parameters!
        parameters.edits = { ...(parameters.edits as object), [identity]: value }
      })
    },

    async rename(kind: Kind, name: string): Promise<void> {
      const to = await ask('Rename', `The new name of ${name}:`, name)
      if (to && to !== name) addCard('rename_attribute', { kind, name, to })
    },
    convert: (kind: Kind, name: string, type: string) => addCard('convert_attribute', { kind, name, type }),
    remove: (kind: Kind, name: string) => addCard('remove_attributes', { names: name, kind }),
    async add(kind: Kind): Promise<void> {
      const name = await ask('New attribute', `Its name, for each ${kind}; the card says what it holds:`)
      if (name) addCard('set_attribute', { kind, name, value: 0 })
    },
  }
}
