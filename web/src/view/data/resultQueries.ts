/** What is asked of a node, so that the view can draw what it is set to show. */
import type { Kind, LookQuery } from '../../api/results'
import type { ViewState } from '../../stores/useView'

/** Looks by what they are for, in the picture of one result. */
export type Part = 'summary' | 'mesh' | 'color' | 'strokes' | 'labels' | 'sizes' | 'edges'

/** The queries for a picture; `as` says what each answer is for. */
export function queriesFor(view: ViewState, picked: Kind): LookQuery[] {
  const queries: LookQuery[] = [
    { what: 'summary', as: 'summary' },
    { what: view.flat ? 'flat' : 'mesh', as: 'mesh' },
  ]
  const { color } = view
  if (color?.how === 'values') queries.push({ what: 'attribute', kind: color.kind, name: color.name, as: 'color' })
  if (color?.how === 'groups') queries.push({ what: 'groups', kind: color.kind, as: 'color' })
  if (color?.how === 'checker') queries.push({ what: 'uv', as: 'color' })
  if (color?.how === 'material') {
    queries.push({ what: 'attribute', kind: 'face', name: 'piece', as: 'color' })
  }
  if (view.strokes && !view.flat) {
    const [kind, name] = view.strokes.split('|')
    queries.push({ what: 'normals', kind: kind === 'face' ? 'face' : 'point', name, as: 'strokes' })
  }
  if (view.labels && view.labels !== 'index')
    queries.push({ what: 'attribute', kind: picked, name: view.labels, as: 'labels' })
  if (view.points && view.points !== 'dots')
    queries.push({ what: 'attribute', kind: 'point', name: view.points, as: 'sizes' })
  if (view.edges === 'kinds' && !view.flat) queries.push({ what: 'edges', as: 'edges' })
  return queries
}
