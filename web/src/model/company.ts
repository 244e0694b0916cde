/** Who else is at a graph, and whose edits went over one's own. */
export interface TheirEdit {
  revision: number
  label: string
  author: string
  key: string
  paths: string[]
}

interface Mine {
  key: string
  label: string
  paths: string[]
  revision: number | null
}

/** Say which edits of others went over one's own: those that came later. What is not kept yet comes later still. */
export function goneOver(theirs: readonly TheirEdit[], mine: readonly Mine[]): string[] {
  const keys = new Set(mine.map((one) => one.key))
  return theirs
    .filter((one) => !keys.has(one.key))
    .flatMap((one) => {
      const before = mine.filter((own) => own.revision !== null && own.revision < one.revision)
      const hit = before.find((own) => own.paths.some((path) => one.paths.some((other) => touches(path, other))))
      return hit ? [`${one.author || 'Somebody else'}’s ‘${one.label || 'edit'}’ went over your ‘${hit.label}’.`] : []
    })
}

/** Whether two paths are the same place, or one is inside of the other. */
function touches(path: string, other: string): boolean {
  return path === other || path.startsWith(`${other}/`) || other.startsWith(`${path}/`)
}

/** What a person is called: by account, or by a number where nobody signs in. */
export function nameOf(person: { name: string }, number: number): string {
  return person.name || `page ${number + 2}`
}
