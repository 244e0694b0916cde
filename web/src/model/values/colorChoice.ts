/** What the picture is coloured by: an attribute, or one of a few ways to see the whole. */
import type { Kind } from '../../api/results'

/** An attribute's values; all groups at once; a checker of uv; a material with a hue for each piece. */
export type How = 'values' | 'groups' | 'checker' | 'material'

export interface ColorChoice {
  how: How
  kind: Kind
  /** The attribute, and the component of a vector. */
  name: string
  part: string
}

export const keyOf = (choice: ColorChoice | null): string =>
  choice ? [choice.how, choice.kind, choice.name, choice.part].join('|') : ''

export function choiceOf(key: string): ColorChoice | null {
  const [how, kind, name = '', part = ''] = key.split('|') as [How, Kind, string, string]
  return key ? { how, kind, name, part } : null
}

export const byValues = (kind: Kind, name: string, part = ''): ColorChoice => ({ how: 'values', kind, name, part })
