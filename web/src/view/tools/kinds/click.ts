/** Picks one element with a click. */
import { nextTick } from 'vue'
import type { Kind } from '../../../api/results'
import { useSelection } from '../../../stores/useSelection'
import type { Hit } from '../../picking/picker'
import type { ToolKind } from '../tool'

/** The kind that a click picks: the one that is set where it is under the pointer; else what is there. */
function kindOf(hit: Hit, set: Kind): 'point' | 'edge' | 'corner' | 'face' | 'instance' {
  if (hit.instance >= 0) return 'instance'
  return set === 'point' || set === 'edge' || set === 'corner' ? set : 'face'
}

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
        const kind = kindOf(hit, selection.kind.value)
        if (kind !== selection.kind.value) {
          selection.kind.value = kind
          await nextTick()
        }
        selection.pick(hit[kind], adds, 'view')
      },
    }
  },
}
