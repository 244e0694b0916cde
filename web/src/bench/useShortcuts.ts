/** Runs the action whose shortcut is pressed, unless a text is being written or a dialog is open. */
import { useEventListener } from '@vueuse/core'
import { isControl, isWriting, shortcutOf, type Action } from '../model/actions'

const ALIASES: Record<string, string> = { Backspace: 'Delete', 'Ctrl+Y': 'Ctrl+Shift+Z' }

export function useShortcuts(actions: () => readonly Action[], isBusy: () => boolean): void {
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (isBusy() || isWriting(event.target) || document.querySelector('.el-overlay:not([style*="display: none"])'))
      return
    if (event.key === 'Enter' && isControl(event.target)) return
    const pressed = shortcutOf(event)
    const alias = ALIASES[pressed] ?? pressed
    const action = actions().find((entry) => entry.shortcut === alias)
    if (!action || action.enabled?.() === false) return
    event.preventDefault()
    action.run()
  })
}
