/** The history of a graph as moments: what each edit led to, on the way to now or on a branch that undo left behind. */
export interface LoggedEdit {
  revision: number
  kind: 'edit' | 'undo' | 'redo'
  label: string
  target: number | null
  author: string
  at: string
  name: string
}

export interface Moment {
  /** A revision at which the graph was like that; the first one. */
  revision: number
  label: string
  author: string
  at: string
  name: string
  /** The moment before it, by its revision; -1 for the beginning. */
  before: number
  /** Whether it is on the way to the graph as it is now. */
  used: boolean
  /** Which branch it is on, counted as they were begun: 0 is the way to now. */
  branch: number
}

export interface History {
  /** Oldest first; the beginning is not among them. */
  moments: Moment[]
  /** The revision of the moment that the graph is at now; 0 for the beginning. */
  now: number
}

/** Return the moments of a log: undo and redo go between them and make none. */
export function historyOf(log: readonly LoggedEdit[]): History {
  const moments = new Map<number, Moment>()
  let now = 0
  for (const edit of log) {
    if (edit.kind === 'edit') {
      const { revision, label, author, at, name } = edit
      moments.set(revision, { revision, label, author, at, name, before: now, used: false, branch: 0 })
      now = revision
    } else {
      const of = moments.get(edit.target ?? -1)
      if (of) now = edit.kind === 'undo' ? of.before : of.revision
      // A name given while undone or redone belongs to where that led.
      const there = moments.get(now)
      if (edit.name && there && !there.name) there.name = edit.name
    }
  }
  for (let at = moments.get(now); at; at = moments.get(at.before)) at.used = true
  let branches = 0
  for (const one of moments.values()) {
    if (one.used) continue
    const before = moments.get(one.before)
    one.branch = before && !before.used ? before.branch : ++branches
  }
  return { moments: [...moments.values()], now }
}

/** Return when an edit was made, in words: today by the clock, before that with the day. */
export function whenOf(at: string, today: Date): string {
  const date = new Date(at)
  const clock = date.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
  if (date.toDateString() === today.toDateString()) return clock
  return `${date.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })}, ${clock}`
}
