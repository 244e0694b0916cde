/** Picks what the pointer passes over while it is pressed. */
import { useSelection } from '../../../stores/useSelection'
import { useBrush } from '../../picking/useBrush'
import type { ToolKind } from '../tool'

export const brush: ToolKind = {
  name: 'brush',
  help: 'Paint over elements to pick them; Shift adds. The right button turns the view.',
  make({ scene, area }) {
    const selection = useSelection()
    const stroke = useBrush(
      () => area.value,
      (outline) => selection.choose(scene()?.within(selection.kind.value, outline) ?? [], true),
    )
    return {
      turns: false,
      cursor: 'crosshair',
      onPointerDown({ spot, adds }) {
        if (!adds) selection.clear()
        stroke.begin(spot)
        return true
      },
      onPointerMove: ({ spot }) => stroke.move(spot),
      onPointerUp: () => stroke.end(),
    }
  },
}
