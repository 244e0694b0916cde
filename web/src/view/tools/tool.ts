/** What a tool of the view is: one object with its own handlers; the view itself knows none by name. */
import type { Ref, VNode } from 'vue'
import type { Spot } from '../picking/within'
import type { Scene } from '../rendering/scene'
import type { Spot3 } from './measurement'
import type { useHandle } from './useHandle'

/** What tools work on. */
export interface Stage {
  scene: () => Scene | null
  canvas: Ref<HTMLCanvasElement | undefined>
  area: Ref<{ width: number; height: number }>
  handles: ReturnType<typeof useHandle>
}

/** What the pointer did, and where in the picture (-1..1). */
export interface Pointed {
  event: PointerEvent
  spot: Spot
  /** Whether it adds to what is picked. */
  adds: boolean
}

/** A tool at work on a stage. */
export interface Tool {
  /** Whether a drag with the left button turns the view; else the right one does. */
  turns: boolean
  cursor?: string
  /** Whether it can be taken up now; without it always. */
  offered?: () => boolean
  /** Names what it is for, if it is taken up by itself when that changes. */
  calledFor?: () => string | null
  onEnter?: () => void
  onExit?: () => void
  /** A left button that goes down; true keeps the pointer until it goes up. */
  onPointerDown?: (pointed: Pointed) => boolean
  onPointerMove?: (pointed: Pointed) => void
  onPointerUp?: (pointed: Pointed) => void
  /** A press and a release at one spot. */
  onClick?: (pointed: Pointed) => unknown
  /** Places that it marks in the picture. */
  marks?: Readonly<Ref<Spot3[]>>
  /** What lies over the picture, and its bar below it. */
  overlay?: () => VNode
  panel?: () => VNode
}

/** One entry of the list of tools. */
export interface ToolKind {
  name: string
  help: string
  make: (stage: Stage) => Tool
}
