/** What the bench asks of the view. */
export interface ViewSurface {
  frame: (chosen?: boolean) => void
  picture: () => Promise<string>
  /** What is seen at a frame, once it is there, as a PNG of a size in pixels. */
  pictureAt: (frame: number, wish: { width: number; height: number; backdrop: boolean }) => Promise<Blob>
}
