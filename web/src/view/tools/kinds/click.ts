/** Picks one element with a click. */
import { nextTick } from 'vue'
import { useSelection } from '../../../stores/useSelection'
import type { ToolKind } from '../tool'

export const click: ToolKind = {
  name: 'click',
  help: 'Pick one element, or a placed shape, with a click; more with Shift. Dragging turns the view.',
  make({ scene }) {
    const selection = useSelection()
    return {
      turns: true,
      async onClick({ spot, adds }) {
        const hit = await scene()?.pick(spot)
        if (!hit) return adds ? undefined : selection.clear()
        if (hit.instance >= 0 && selection.kind.value !== 'instance') {
          selection.kind.value = 'instance'
          await nextTick()
        }
        const kind = selection.kind.value
        const number = kind === 'curve' || kind === 'whole' ? -1 : hit[kind]
        if (number >= 0) selection.pick(number, adds, 'view')
        else if (!adds) selection.clear()
      },
    }
  },
}
