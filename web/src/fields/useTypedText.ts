/** A text that is typed: it follows the stored value, is shown while it is typed, and goes back on Escape. */
import { ref, watch } from 'vue'

export function useTypedText<Value>(stored: () => Value, show: (value: Value) => string) {
  const text = ref(show(stored()))
  const typing = ref(false)
  let before = stored()

  watch(stored, (value) => {
    if (!typing.value) text.value = show(value)
  })

  return {
    text,

    /** A letter was typed: from now on the stored value may be a preview, so remember what it was. */
    begin() {
      if (!typing.value) before = stored()
      typing.value = true
    },

    /** Typing is over; returns whether there was any. */
    end(): boolean {
      const was = typing.value
      typing.value = false
      return was
    },

    /** Typing is given up; returns the value from before it. */
    back(): Value {
      const value = typing.value ? before : stored()
      typing.value = false
      text.value = show(value)
      return value
    },
  }
}
