/** Earlier moments of a graph, to compare with. */
export interface Edit {
  revision: number
  kind: 'edit' | 'undo' | 'redo'
  label: string
}

const MOST = 30
const WORDS = { edit: '', undo: 'undoing ', redo: 'redoing ' }

/** The revision that a choice names, or null if it names a card. */
export function revisionOf(choice: string): number | null {
  return /^@\d+$/.test(choice) ? Number(choice.slice(1)) : null
}

/** The moments before the newest edits, the latest first, as choices. */
export function momentsOf(edits: Edit[], most = MOST): { key: string; label: string }[] {
  return edits
    .slice(-most)
    .reverse()
    .map((edit) => ({ key: `@${edit.revision - 1}`, label: `before ${WORDS[edit.kind]}‘${edit.label || 'a change'}’` }))
}
