/** Where the caret stands in a text area, and whether it has the focus. */
import { nextTick, ref } from 'vue'

export function useCaret() {
  const at = ref(0)
  const focused = ref(false)
  let area: HTMLTextAreaElement | null = null

  function look(event: Event) {
    area = event.target as HTMLTextAreaElement
    at.value = area.selectionStart ?? 0
  }

  return {
    at,
    focused,
    /** The text was typed into: look where the caret is now. */
    again(): void {
      at.value = area?.selectionStart ?? 0
    },

    listeners: {
      focus: (event: Event) => {
        focused.value = true
        look(event)
      },
      keyup: look,
      click: look,
    },

    /** Put the caret somewhere once the text has changed. */
    move(to: number): void {
      at.value = to
      void nextTick(() => area?.setSelectionRange(to, to))
    },
  }
}
