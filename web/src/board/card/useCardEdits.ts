/** What can be done to one card: set its parameters, look at it, draw its ghost, skip it, rename it. */
import { setParameter } from '../../model/document'
import { useChanges } from '../../stores/useChanges'
import { useGraph } from '../../stores/useGraph'
import { useTime } from '../../stores/useTime'
import { useView } from '../../stores/useView'
import type { CardState } from './useCard'

export function useCardEdits({ id, node, declared, outputs, title }: CardState) {
  const graph = useGraph()
  const changes = useChanges()
  const view = useView()
  const time = useTime()
  const entryOf = (name: string) => declared.value?.parameters.find((p) => p.name === name)
  const defaultOf = (name: string) => entryOf(name)?.default
  const turned = (name: string, value: unknown) =>
    time.turned(node.value?.parameters?.[name], value, entryOf(name)?.widget ?? '')

  return {
    preview(name: string, value: unknown): void {
      graph.preview((next) => setParameter(next, id, name, turned(name, value), defaultOf(name)))
    },

    /** Store a value: with a key at this frame where it has keys or the time strip is armed, unless it is `plain`. */
    commit(name: string, value: unknown, plain = false): void {
      graph.dropPreview()
      const stored = plain ? value : turned(name, value)
      graph.edit(`set ${name.replaceAll('_', ' ')} of ${title.value}`, (next) =>
        setParameter(next, id, name, stored, defaultOf(name)),
      )
    },

    look(output?: string): void {
      const feed = output && output !== outputs.value[0]?.name ? `${id}:${output}` : id
      graph.edit(`look at ${title.value}`, (next) => (next.looking_at = feed))
    },

    toggleGhost(): void {
      view.ghosts = view.ghosts.includes(id) ? view.ghosts.filter((one) => one !== id) : [...view.ghosts, id]
    },

    skip(): void {
      graph.edit(
        `${node.value?.skip ? 'run' : 'skip'} ${title.value}`,
        (next) => (next.nodes[id]!.skip = !node.value?.skip),
      )
    },

    rename(typed: string): void {
      const text = typed.trim()
      if (text && text !== title.value)
        void changes.make(`rename ${title.value}`, 'rename node', { node: id, title: text })
    },
  }
}
