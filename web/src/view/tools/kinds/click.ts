/** Picks one element with a click. */
import { useSelection } from '../../../stores/useSelection'
import type { ToolKind } from '../tool'

export const click: ToolKind = {
  name: 'click',
  help: 'Pick one element with a click; more with Shift. Dragging turns the view.',
  make({ scene }) {
    const selection = useSelection()
    return {
      turns: true,
      async onClick({ spot, adds }) {
        const hit = await scene()?.pick(spot)
        const kind = selection.kind.value
        if (!hit) return adds ? undefined : selection.clear()
        if (kind === 'face' || kind === 'point' || kind === 'corner' || kind === 'edge')
          selection.pick(hit[kind], adds, 'view')
      },
    }
  },
}
