/** What the view shows besides the shape itself. Kept while the page lives; the quality, in this browser. */
import { createGlobalState, useLocalStorage } from '@vueuse/core'
import { reactive, toRef, watch } from 'vue'
import type { ColorChoice } from '../model/values/colorChoice'

/** One picture, two beside each other, or one across a dragged line. */
export type Form = 'one' | 'beside' | 'across'
/** Scales of false colour. */
export type ScaleName = 'even' | 'warm' | 'calm' | 'signed' | 'distinct'

export interface ViewState {
  faces: boolean
  /** No edges, all of them, or those that are borders, creases or crowded, told apart. */
  edges: 'off' | 'all' | 'kinds'
  /** No points, dots of a few pixels, or as large as this attribute says, in m. */
  points: string
  smooth: boolean
  /** How much is drawn; empty: what the machine was found to manage. */
  quality: '' | 'fast' | 'plain' | 'studio'
  ground: boolean
  /** How solid faces are. */
  veil: 'solid' | 'see-through' | 'x-ray'
  /** Strokes: which vector of which kind, as "kind|name"; normals are one of them. */
  strokes: string
  /** Length of the longest stroke, as a share of the size of the shape. */
  strokeLength: number
  /** What is written at the selected kind's elements: their number, or an attribute. */
  labels: string
  scale: ScaleName
  /** The range that the scale covers; none: the real one. */
  range: [number, number] | null
  /** The name of the tool in use. */
  tool: string
  /** The picture is cut open across an axis, at a share of the shape. */
  cut: '' | 'x' | 'y' | 'z'
  cutAt: number
  /** Nodes whose results are drawn as faint wires. */
  ghosts: string[]
  /** Faces laid out by their uv, instead of where they stand. */
  flat: boolean
  /** How a comparison is seen: as distances in colour, two pictures beside each other, or one across a line. */
  form: 'colours' | Exclude<Form, 'one'>
  line: number
  color: ColorChoice | null
  /** Whether the user chose the colour; until then a mesh with colours shows them. */
  chosen: boolean
}

export const useView = createGlobalState(() => {
  const view = reactive<ViewState>({
    faces: true,
    edges: 'off',
    points: '',
    smooth: false,
    quality: '',
    ground: true,
    veil: 'solid',
    strokes: '',
    strokeLength: 0.05,
    labels: '',
    scale: 'even',
    range: null,
    tool: 'click',
    cut: '',
    cutAt: 0.5,
    ghosts: [],
    flat: false,
    form: 'colours',
    line: 0.5,
    color: null,
    chosen: false,
  })

  /** A quality that was chosen is meant for this machine, not for one visit. */
  const kept = useLocalStorage<ViewState['quality']>('reticula quality', '')
  view.quality = kept.value
  watch(toRef(view, 'quality'), (now) => (kept.value = now))

  return view
})
