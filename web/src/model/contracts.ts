/** What can be demanded of a geometry: of what comes in at an operator, and of what comes out of it. */

export interface Condition {
  what: string
  kind?: string
  name?: string
  value?: number
  formula?: string
  input?: string
  output?: string
}

export const CONDITIONS: { what: string; label: string; needs: ('kind' | 'name' | 'value' | 'formula' | 'input')[] }[] =
  [
    { what: 'closed', label: 'has no open border', needs: [] },
    { what: 'triangles', label: 'all faces are triangles', needs: [] },
    { what: 'quads', label: 'all faces have four sides', needs: [] },
    { what: 'one piece', label: 'all hangs together', needs: [] },
    { what: 'attribute', label: 'has an attribute or group', needs: ['kind', 'name'] },
    { what: 'least area', label: 'no face is smaller than (m²)', needs: ['value'] },
    { what: 'keeps points', label: 'keeps the points of an input', needs: ['input'] },
    { what: 'formula', label: 'a formula on the whole holds', needs: ['formula'] },
  ]

/** Say a condition in words. */
export function conditionText(condition: Condition): string {
  const known = CONDITIONS.find((entry) => entry.what === condition.what)
  if (condition.what === 'attribute') return `has the ${condition.kind ?? 'point'} attribute ‘${condition.name ?? ''}’`
  if (condition.what === 'least area') return `no face is smaller than ${condition.value ?? 0} m²`
  if (condition.what === 'keeps points') return `keeps the points of ‘${condition.input ?? 'geo'}’`
  if (condition.what === 'formula') return condition.formula ?? ''
  return known?.label ?? condition.what
}
