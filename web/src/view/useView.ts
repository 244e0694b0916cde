/** What the view shows besides the shape itself. Kept while the page lives. */
import { reactive } from 'vue'
import type { Kind } from '../api/looks'

export interface ViewState {
  faces: boolean
  wire: boolean
  points: boolean
  smooth: boolean
  normals: '' | 'point' | 'face'
  /** The attribute shown as false colour: kind, name and component. */
  color: { kind: Kind; name: string; part: string } | null
  /** Whether the user chose the colour; until then a mesh with colours shows them. */
  chosen: boolean
}

const view = reactive<ViewState>({ faces: true, wire: false, points: false, smooth: false, normals: '', color: null, chosen: false })

export function useView() {
  return view
}
