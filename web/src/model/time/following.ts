/** A dial's value that follows a table: a log of times and values. As the document holds it. */

export interface Following {
  table: string
  time?: string
  value: string | string[]
  unit?: string
  speed?: number
  start?: number | null
  taken?: string
  before?: string
  after?: string
  factor?: number
  add?: number
  /** The plain value that it had before; what checks go by where no time passes. */
  otherwise: unknown
}

const FIELDS = [
  'table',
  'time',
  'value',
  'unit',
  'speed',
  'start',
  'taken',
  'before',
  'after',
  'factor',
  'add',
  'otherwise',
]

export function isFollowing(value: unknown): value is Following {
  if (typeof value !== 'object' || value === null || !('table' in value)) return false
  return Object.keys(value).every((name) => FIELDS.includes(name))
}

/** Which column of which table. */
export function followsInWords({ table, value }: Following): string {
  const columns = [value].flat().filter(Boolean).join(', ')
  return table ? `follows ${table}${columns ? `: ${columns}` : ''}` : 'follows a table'
}

/** How much of the table passes in a second, in its unit. */
export function paceOf({ speed, unit }: Following, units: Record<string, number>): number {
  return (speed ?? 1) / (units[unit ?? 's'] || 1)
}

/** The columns of a shape that can be read as times or values, as the service told when it was uploaded. */
export function columnsOf(summary: Record<string, unknown> | undefined): { name: string; type: string }[] {
  const attributes = (summary?.attributes ?? {}) as Record<string, { name: string; type: string }[]>
  return (attributes.point ?? []).filter((one) => !one.type.endsWith('list') && !one.type.startsWith('mat'))
}
