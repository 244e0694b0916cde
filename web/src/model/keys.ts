/** Shortcuts as they were changed: each key belongs to one action. */
import type { Action } from './actions'

/** Keys by the name of their action; an empty one means that it has none any more. */
export type Keys = Record<string, string>

/** Return the actions with the keys that they have now. */
export function keyed(actions: readonly Action[], keys: Keys): Action[] {
  return actions.map((action) => {
    const shortcut = keys[action.name] ?? action.shortcut
    return { ...action, shortcut: shortcut || undefined }
  })
}

/** Return the keys after an action was given another one; who had it before has none. */
export function rekeyed(actions: readonly Action[], keys: Keys, name: string, shortcut: string): Keys {
  const before = keyed(actions, keys).find((action) => action.shortcut === shortcut && action.name !== name)
  const next = { ...keys, [name]: shortcut, ...(before ? { [before.name]: '' } : {}) }
  return Object.fromEntries(
    Object.entries(next).filter(
      ([one, key]) => (actions.find((action) => action.name === one)?.shortcut ?? '') !== key,
    ),
  )
}

/** Whether a key press can be a shortcut: not a modifier alone, and not what browsers and lists need. */
export function canBeKey(shortcut: string): boolean {
  return !/(^|\+)(Control|Shift|Alt|Meta|Tab|Dead|Process|Unidentified)$/.test(shortcut) && !/^Arrow/.test(shortcut)
}
