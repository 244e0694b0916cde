/** Lays strokes of the chosen paint card on the surface. */
import { h } from 'vue'
import PaintBar from '../PaintBar.vue'
import { spotOn } from '../spot'
import type { ToolKind } from '../tool'
import { usePaint } from '../usePaint'

export const paint: ToolKind = {
  name: 'paint',
  help: 'Drag over the surface to lay on what the chosen paint card says; the right button turns the view.',
  make({ scene, canvas }) {
    const strokes = usePaint((event) => scene()?.placeAt(spotOn(canvas.value!, event)) ?? null)
    return {
      turns: false,
      cursor: 'crosshair',
      offered: () => strokes.card.value !== null,
      calledFor: () => strokes.card.value,
      onEnter: () => void scene()?.picker.ready(),
      onPointerDown: ({ event }) => strokes.begin(event),
      onPointerMove: ({ event }) => strokes.move(event),
      onPointerUp: () => strokes.end(),
      panel: () =>
        h(PaintBar, {
          simulated: strokes.simulated.value,
          'onUpdate:simulated': (on: boolean) => void (strokes.simulated.value = on),
          strokes: strokes.strokes.value,
          pressure: strokes.pressure.value,
          onReset: () => void strokes.reset(),
        }),
    }
  },
}
