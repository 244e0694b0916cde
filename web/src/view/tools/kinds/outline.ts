/** Picks what lies within a box or a lasso that is drawn over the picture. */
import { h } from 'vue'
import { useSelection } from '../../../stores/useSelection'
import SelectionOutline from '../../picking/SelectionOutline.vue'
import type { Spot } from '../../picking/within'
import type { ToolKind } from '../tool'

function outlining(name: 'box' | 'lasso', help: string): ToolKind {
  return {
    name,
    help,
    make({ scene }) {
      const selection = useSelection()
      return {
        turns: false,
        overlay: () =>
          h(SelectionOutline, {
            tool: name,
            onDone: (outline: Spot[], add: boolean) =>
              selection.choose(scene()?.within(selection.kind.value, outline) ?? [], add),
          }),
      }
    },
  }
}

export const box = outlining('box', 'Drag a box around elements; Shift adds.')
export const lasso = outlining('lasso', 'Draw around elements; Shift adds.')
