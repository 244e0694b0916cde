/** What the bench asks of the board. */
export interface BoardSurface {
  selected: string[]
  select: (ids: string[]) => void
  cutWire: () => boolean
  fit: () => Promise<void>
  showAll: () => Promise<void>
  follow: () => void
  tidy: () => void
  /** How the graph is drawn now. */
  form: 'lanes' | 'cards'
  turnForm: () => void
  foldChosen: () => Promise<void>
  linkCopy: (id: string) => Promise<void>
  frameChosen: () => void
  nameJump: () => void
  copy: () => string
  pasteText: (text: string) => Promise<void>
  search: () => void
  ask: () => void
}

/** What the board asks of how it draws the graph; lanes need no place for cards, so they do less. */
export interface GraphPane {
  /** Move to a node. */
  centre: (id: string) => Promise<void>
  fit?: () => Promise<void>
  showAll?: () => Promise<void>
  follow?: () => void
  tidy?: () => void
  cutWire?: () => boolean
  /** Put the chosen cards in a line, where they have places. */
  align?: () => void
}
