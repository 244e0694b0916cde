/** The tool that is in use: it gets what the pointer does; it is laid down when it is not offered any more. */
import { computed, watch } from 'vue'
import { useView } from '../../stores/useView'
import { TOOLS, USUAL } from './list'
import { spotOn } from './spot'
import type { Pointed, Stage, ToolKind } from './tool'

/** How far a pointer may move between press and release and still click, in pixels. */
const STILL = 4

export function useTools(stage: Stage, kinds: readonly ToolKind[] = TOOLS) {
  const view = useView()
  const { scene, canvas, handles } = stage
  const all = kinds.map((kind) => ({ ...kind, ...kind.make(stage) }))
  const offered = computed(() => all.filter((tool) => tool.offered?.() ?? true))
  const current = computed(() => all.find((tool) => tool.name === view.tool) ?? all[0]!)

  for (const tool of all) {
    const { calledFor } = tool
    if (calledFor) watch(calledFor, (wanted) => wanted && (view.tool = tool.name))
  }
  watch([offered, current], ([known, now]) => known.includes(now) || (view.tool = USUAL))
  watch(current, (now, before) => {
    before.onExit?.()
    settle(now)
  })

  function settle(tool = current.value) {
    scene()?.setTurning(tool.turns)
    tool.onEnter?.()
  }

  const pointed = (event: PointerEvent): Pointed => ({
    event,
    spot: spotOn(canvas.value!, event),
    adds: event.shiftKey || event.ctrlKey || event.metaKey,
  })

  let down: [number, number] = [0, 0]
  function press(event: PointerEvent) {
    down = [event.clientX, event.clientY]
    if (event.button !== 0 || !canvas.value) return
    if (current.value.onPointerDown?.(pointed(event))) canvas.value.setPointerCapture(event.pointerId)
  }

  function move(event: PointerEvent) {
    if (canvas.value) current.value.onPointerMove?.(pointed(event))
  }

  function release(event: PointerEvent) {
    if (!canvas.value) return
    current.value.onPointerUp?.(pointed(event))
    const far = Math.hypot(event.clientX - down[0], event.clientY - down[1])
    if (!current.value.onClick || far > STILL || event.button !== 0 || scene()?.handle.busy) return
    const at = pointed(event)
    const dot = scene()?.dotAt(at.spot) ?? -1
    if (dot >= 0) handles.which.value = handles.targets.value.findIndex((target) => target.index === dot)
    else void current.value.onClick(at)
  }

  return { offered, current, settle, press, move, release }
}
