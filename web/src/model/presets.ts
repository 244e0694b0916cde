/** Presets of a graph: values of its dials under a name. */
import type { GraphDocument } from './document'

type Values = Record<string, unknown>

/** The preset whose values the dials have now; empty where it is none. */
export function presetOn(document: GraphDocument): string {
  const isOn = (values: Values) =>
    Object.keys(values).length > 0 &&
    Object.entries(values).every(
      ([name, value]) => JSON.stringify(document.dials?.[name]?.value) === JSON.stringify(value),
    )
  return Object.entries(document.presets ?? {}).find(([, values]) => isOn(values))?.[0] ?? ''
}

/** Turn the dials to what a preset has; dials that are gone stay away. */
export function takePreset(document: GraphDocument, preset: string): void {
  for (const [name, value] of Object.entries(document.presets?.[preset] ?? {}))
    if (document.dials?.[name]) document.dials[name].value = value
}

/** Keep values as a preset, in the place of one that has its name. */
export function keepPreset(document: GraphDocument, preset: string, values: Values): void {
  document.presets = { ...document.presets, [preset]: values }
}

/** What a preset of all dials as they stand holds. */
export const standing = (document: GraphDocument): Values =>
  Object.fromEntries(Object.entries(document.dials ?? {}).map(([name, dial]) => [name, dial.value]))

/** What a preset can hold of values: those of dials; null if there are none, or some of cards that it would leave out. */
export function presetOf(document: GraphDocument, values: Values): Values | null {
  const ofCard = (name: string) => name.includes('.') && name.split('.')[0]! in document.nodes
  const kept = Object.entries(values).filter(([name]) => name in (document.dials ?? {}))
  return kept.length && !Object.keys(values).some(ofCard) ? Object.fromEntries(kept) : null
}
