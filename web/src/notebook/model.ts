/** What the view is told by the program whose shapes it shows: the front end of a widget, as anywidget defines it. */
import type { AttributeLook, DrawnMesh, Kind } from '../api/results'

export interface ShownShape {
  title: string
  counts: string
  mesh: DrawnMesh
  /** What can be shown as colour. */
  attributes: { kind: Kind; name: string; type: string; parts: string[] }[]
}

export interface Wish {
  kind: Kind
  name: string
  part: string
}

export interface DialTold {
  name: string
  type: 'number' | 'integer' | 'flag' | 'choice' | 'text' | 'vector'
  value: number | boolean | string | number[]
  low?: number
  high?: number
  step?: number
  unit: string
  help: string
  options?: string[]
}

export interface State {
  shapes: ShownShape[]
  arrays: Record<string, DataView>
  looks: (AttributeLook | null)[]
  color: Wish | null
  height: number
  dials: DialTold[]
  values: Record<string, unknown>
  trouble: string
}

/** The part of a widget's model that is used here; https://anywidget.dev/en/afm/. */
export interface Model {
  get<Name extends keyof State>(name: Name): State[Name]
  set<Name extends keyof State>(name: Name, value: State[Name]): void
  save_changes(): void
  on(event: string, then: () => void): void
  off(event: string, then: () => void): void
}
