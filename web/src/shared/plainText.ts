/** A value as text, if it is a plain one; nothing of lists and records. */
export function plainText(value: unknown): string {
  return typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean' ? String(value) : ''
}
