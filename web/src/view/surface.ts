/** What the bench asks of the view. */
export interface ViewSurface {
  frame: (chosen?: boolean) => void
  picture: () => Promise<string>
}
