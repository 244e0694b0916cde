/** What a page changed lately, so that it can be told if others go over it. */

/** An edit by the paths of what it changed; `revision` is what it led to, once that is known. */
export interface OwnEdit {
  key: string
  label: string
  paths: string[]
  at: number
  revision: number | null
}

/** How long one is told if others go over an edit of one's own. */
const OWN_MS = 60_000

export function ownEdits() {
  let own: OwnEdit[] = []
  return {
    made({ key, label, patch }: { key: string; label: string; patch: readonly { path: string }[] }): void {
      const at = Date.now()
      const paths = patch.map((one) => one.path)
      own = [...own.filter((one) => at - one.at < OWN_MS), { key, label, paths, at, revision: null }]
    },
    /** An edit was kept, as this revision. */
    kept(key: string, revision: number): void {
      own = own.map((one) => (one.key === key ? { ...one, revision: one.revision ?? revision } : one))
    },
    all: (): readonly OwnEdit[] => own.filter((one) => Date.now() - one.at < OWN_MS),
  }
}
