/** Measures between places of the surface that are clicked. */
import { h, shallowRef } from 'vue'
import { measured, type Spot3 } from '../measurement'
import type { ToolKind } from '../tool'

export const measure: ToolKind = {
  name: 'measure',
  help: 'Click two places of the surface: how far they are from each other. A third one gives the angle.',
  make({ scene }) {
    const marks = shallowRef<Spot3[]>([])
    return {
      turns: true,
      cursor: 'crosshair',
      marks,
      onExit: () => void (marks.value = []),
      async onClick({ spot }) {
        const hit = await scene()?.pick(spot)
        if (hit) marks.value = [...(marks.value.length === 3 ? [] : marks.value), hit.place]
      },
      panel: () => h('div', { class: 'bar floating', 'data-test': 'measured' }, measured(marks.value)),
    }
  },
}
