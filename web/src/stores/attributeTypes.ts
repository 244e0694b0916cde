/** What the page knows of attribute types: all of it is served, none is written down here. */
import { useCatalogue } from './useCatalogue'
import type { AttributeTypeState } from '../api/client'

const NOTHING: AttributeTypeState = { about: '', shown: 'text', parts: '', measured: false, converts: false }

export function aboutType(name: string): AttributeTypeState {
  return useCatalogue().catalogue.attribute_types[name] ?? NOTHING
}

/** Types that values of one can be made of. */
export function convertible(from: string): string[] {
  const types = useCatalogue().catalogue.attribute_types
  return aboutType(from).converts ? Object.keys(types).filter((name) => name !== from && types[name]!.converts) : []
}

/** The letters of a vector's components, by what its name means; none of what has one component. */
export function lettersOf(name: string, type: string): string[] {
  const parts = aboutType(type).parts
  const letters = name === 'color' ? 'rgba' : name === 'uv' ? 'uv' : parts
  return Array.from(parts, (letter, n) => letters[n] ?? letter)
}
