/** The parameters of an operator under their headings: the main ones first, and what is said of a closed section. */

export interface Sectioned {
  name: string
  label: string
  help: string
  section?: string | null
}

export interface Section<Parameter> {
  /** Its heading; none for the main parameters. */
  section: string
  parameters: Parameter[]
  /** How many of them are not as they usually are. */
  changed: number
  /** What is said of it while it is closed. */
  told: string
}

/** Return the sections in the order in which they come up; with words, only parameters that they fit. */
export function sectionsOf<Parameter extends Sectioned>(
  parameters: readonly Parameter[],
  isChanged: (parameter: Parameter) => boolean,
  words = '',
): Section<Parameter>[] {
  const wanted = words.trim().toLowerCase()
  const found = new Map<string, Parameter[]>([['', []]])
  for (const parameter of parameters) {
    if (wanted && !`${parameter.label} ${parameter.help}`.toLowerCase().includes(wanted)) continue
    const section = parameter.section ?? ''
    found.set(section, [...(found.get(section) ?? []), parameter])
  }
  return [...found]
    .filter(([, held]) => held.length)
    .map(([section, held]) => {
      const changed = held.filter(isChanged).length
      return {
        section,
        parameters: held,
        changed,
        told: changed ? `${changed} changed` : held.map((one) => one.label).join(', '),
      }
    })
}
