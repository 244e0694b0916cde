/** What the bench asks of the dials. */
export interface DialsSurface {
  add: () => void | Promise<void>
}
