/** Every action of the bench, in one list: the finder shows it, shortcuts run it. */

export interface Action {
  name: string
  help: string
  /** As a person reads it, e.g. "Ctrl+Z". */
  shortcut?: string
  enabled?: () => boolean
  run: () => void
}

/** Return the shortcut that a key press stands for, in the same form as `Action.shortcut`. */
export function shortcutOf(event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>): string {
  const key = event.key.length === 1 ? event.key.toUpperCase() : event.key
  const symbol = /^[^A-Z0-9]$/.test(key)
  const parts = [
    event.ctrlKey || event.metaKey ? 'Ctrl' : '',
    event.altKey ? 'Alt' : '',
    event.shiftKey && !symbol ? 'Shift' : '',
    key,
  ]
  return parts.filter(Boolean).join('+')
}

/** Return whether a key press belongs to the text that is being written. */
export function isWriting(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
}

/** Return whether Enter already means something where the focus is. */
export function isControl(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.closest('button, a, summary, [role=button], [role=option]') !== null
}

/** Return how well words fit a text: 0 not at all; each word must begin some word of it or lie inside one. */
export function fit(words: string, name: string, more: string): number {
  let total = 1
  for (const word of words.toLowerCase().split(/\s+/).filter(Boolean)) {
    const inName = score(word, name.toLowerCase())
    const inMore = score(word, more.toLowerCase())
    if (!inName && !inMore) return 0
    total += inName * 10 + inMore
  }
  return total
}

function score(word: string, text: string): number {
  const parts = text.split(/[^a-z0-9]+/)
  if (text === word) return 5
  if (text.startsWith(word)) return 4
  if (parts.includes(word)) return 3
  if (parts.some((part) => part.startsWith(word))) return 2
  return text.includes(word) ? 1 : 0
}
