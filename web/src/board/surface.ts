/** What the bench asks of the board. */
export interface BoardSurface {
  selected: string[]
  select: (ids: string[]) => void
  cutWire: () => boolean
  fit: () => Promise<void>
  showAll: () => Promise<void>
  follow: () => void
  tidy: () => void
  foldChosen: () => Promise<void>
  frameChosen: () => void
  nameJump: () => void
  copy: () => string
  pasteText: (text: string) => Promise<void>
  search: () => void
  ask: () => void
}
