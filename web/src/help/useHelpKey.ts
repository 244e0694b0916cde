/** F1 opens the help of what the pointer is over, or of what the keyboard went to since the pointer moved. */
import { useEventListener } from '@vueuse/core'
import { useHelp } from '../stores/insight/useHelp'
import { topicAt } from './topics'

export function useHelpKey(): void {
  const help = useHelp()
  let meant: Element | null = null
  const note = (event: Event) => {
    if (event.target instanceof Element) meant = event.target
  }
  useEventListener(window, 'pointermove', note, { passive: true })
  useEventListener(window, 'focusin', note)
  useEventListener(
    window,
    'keydown',
    (event) => {
      if (event.key !== 'F1') return
      event.preventDefault()
      const topic = topicAt(meant)
      if (typeof topic === 'string') help.openPage(topic)
      else help.openOperator(topic.operator, topic.parameter)
    },
    { capture: true },
  )
}
