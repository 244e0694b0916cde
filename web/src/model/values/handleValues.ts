/** Numbers of handles: what is dragged, how it snaps, and where it stands among the parameters of a card. */
import * as THREE from 'three'
import type { OperatorState, ParameterState } from '../../api/client'

export type Triple = [number, number, number]
export type Shape = 'place' | 'places' | 'direction' | 'plane' | 'turn' | 'scale' | 'size'

/** Steps of snapping: m, degrees, factors. */
export const STEPS = { place: 0.05, turn: 15, scale: 0.1 }

export interface Target {
  /** The parameter, and for a list of places which of them. */
  name: string
  index: number | null
  label: string
  shape: Shape
  unit: string
  value: Triple
  base: Triple
  space: 'own' | 'world'
}

export function isTriple(value: unknown): value is Triple {
  return (
    Array.isArray(value) &&
    value.length === 3 &&
    value.every((part) => typeof part === 'number' && Number.isFinite(part))
  )
}

export function rounded(parts: number[], digits = 6): Triple {
  return parts.map((part) => Number(part.toPrecision(digits)) + 0) as Triple
}

/** A direction of length 1; straight up where there is none. */
export function directionOf(value: number[]): THREE.Vector3 {
  const way = new THREE.Vector3().fromArray(value)
  return way.length() > 0 ? way.normalize() : way.set(0, 1, 0)
}

/** The nearest direction whose height and heading are whole steps of a turn. */
export function snapped(way: THREE.Vector3): Triple {
  const step = (STEPS.turn * Math.PI) / 180
  const unit = way.clone().normalize()
  const height = Math.round(Math.asin(Math.min(Math.max(unit.y, -1), 1)) / step) * step
  const heading = Math.round(Math.atan2(unit.z, unit.x) / step) * step
  return [Math.cos(height) * Math.cos(heading), Math.sin(height), Math.cos(height) * Math.sin(heading)].map(
    (part) => Number(part.toFixed(4)) + 0,
  ) as Triple
}

/** All that can be dragged of a card: its visible parameters that have a handle and hold plain numbers. */
export function targetsOf(
  operator: OperatorState,
  values: Record<string, unknown>,
  isShown: (parameter: ParameterState) => boolean,
): Target[] {
  return operator.parameters.flatMap((parameter): Target[] => {
    const { handle } = parameter
    if (!handle || !isShown(parameter)) return []
    const value = values[parameter.name]
    const base = handle.at
      .map((name) => values[name])
      .filter(isTriple)
      .reduce<Triple>((sum, place) => sum.map((part, i) => part + place[i]!) as Triple, [0, 0, 0])
    const target = {
      name: parameter.name,
      label: parameter.label,
      shape: handle.shape,
      unit: parameter.unit,
      base,
      space: handle.space,
    }
    if (handle.shape === 'places') {
      return Array.isArray(value)
        ? value
            .filter(isTriple)
            .map((place, index) => ({ ...target, index, label: `place ${index + 1}`, value: place }))
        : []
    }
    return isTriple(value) ? [{ ...target, index: null, value }] : []
  })
}

/** The value of the parameter after one of its targets moved. */
export function withMoved(old: unknown, target: Target, value: Triple): unknown {
  if (target.index === null) return value
  return (old as Triple[]).map((place, index) => (index === target.index ? value : place))
}
