/** What the view shows besides the shape itself. Kept while the page lives. */
import { reactive } from 'vue'
import type { Kind } from '../api/looks'
import type { ScaleName } from './scales'

export interface ViewState {
  faces: boolean
  wire: boolean
  points: boolean
  smooth: boolean
  /** Strokes: which vector of which kind, as "kind|name"; normals are one of them. */
  strokes: string
  /** Length of the longest stroke, as a share of the size of the shape. */
  strokeLength: number
  /** What is written at the selected kind's elements: their number, or an attribute. */
  labels: string
  scale: ScaleName
  /** The range that the scale covers; none: the real one. */
  range: [number, number] | null
  tool: 'click' | 'box' | 'lasso' | 'measure' | 'paint'
  /** The picture is cut open across an axis, at a share of the shape. */
  cut: '' | 'x' | 'y' | 'z'
  cutAt: number
  /** Nodes whose results are drawn as faint wires. */
  ghosts: string[]
  /** The attribute shown as false colour: kind, name and component. */
  color: { kind: Kind; name: string; part: string } | null
  /** Whether the user chose the colour; until then a mesh with colours shows them. */
  chosen: boolean
}

const view = reactive<ViewState>({ faces: true, wire: false, points: false, smooth: false, strokes: '', strokeLength: 0.05, labels: '', scale: 'even', range: null, tool: 'click', cut: '', cutAt: 0.5, ghosts: [], color: null, chosen: false })

export function useView() {
  return view
}
