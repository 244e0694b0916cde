/** What a choice offers. */
export interface Entry {
  value: string
  label: string
  /** A word on it, beside its label. */
  help?: string
  /** It is shown, and cannot be chosen. */
  off?: boolean
}
export interface Group {
  title: string
  entries: Entry[]
}

/** Entries that are their own labels. */
export const entriesOf = (words: readonly string[]): Entry[] => words.map((word) => ({ value: word, label: word }))
