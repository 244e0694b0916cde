/** One picture, two beside each other, or two under a line that is dragged across; coordinates in -1..1 of the whole canvas. */
import type { Form } from '../../stores/useView'
import type { Spot } from '../picking/within'

export interface Pane {
  /** Where it begins and how wide it is, as shares of the canvas. */
  left: number
  width: number
}

export interface Panes {
  form: Form
  /** Where the line is, as a share of the width. */
  line: number
}

/** The share of the canvas in which the other result is seen, and that of the one looked at. */
export function panesOf({ form, line }: Panes): { other: Pane | null; own: Pane } {
  if (form === 'beside') return { other: { left: 0, width: 0.5 }, own: { left: 0.5, width: 0.5 } }
  if (form === 'across') return { other: { left: 0, width: line }, own: { left: line, width: 1 - line } }
  return { other: null, own: { left: 0, width: 1 } }
}

/** The part of the canvas over which the camera's picture of the own result is spread. */
export function spanOf({ form }: Panes): Pane {
  return form === 'beside' ? { left: 0.5, width: 0.5 } : { left: 0, width: 1 }
}

/** From a spot on the canvas to one in the camera's picture; null where the own result is not seen. */
export function toCamera(panes: Panes, [x, y]: Spot): Spot | null {
  const share = (x + 1) / 2
  const { own } = panesOf(panes)
  if (share < own.left || share > own.left + own.width) return null
  return spread(panes, [x, y])
}

/** The same without regard to what is seen, for outlines that reach over an edge. */
export function spread(panes: Panes, [x, y]: Spot): Spot {
  const span = spanOf(panes)
  return [(((x + 1) / 2 - span.left) / span.width) * 2 - 1, y]
}
