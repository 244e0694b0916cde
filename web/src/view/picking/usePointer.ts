/** What a press, a drag and a click in the picture mean, by the tool that is chosen. */
import * as THREE from 'three'
import { shallowRef, type Ref } from 'vue'
import { useSelection } from '../../stores/useSelection'
import { useView } from '../../stores/useView'
import type { Scene } from '../rendering/scene'
import type { Spot3 } from '../tools/measurement'
import type { useHandle } from '../tools/useHandle'
import { usePaint } from '../tools/usePaint'
import { useBrush } from './useBrush'
import type { Spot } from './within'

interface Stage {
  scene: () => Scene | null
  canvas: Ref<HTMLCanvasElement | undefined>
  area: Ref<{ width: number; height: number }>
  handles: ReturnType<typeof useHandle>
}

export function usePointer({ scene, canvas, area, handles }: Stage) {
  const view = useView()
  const selection = useSelection()
  /** Places that are measured. */
  const spots = shallowRef<Spot3[]>([])
  const paintTool = usePaint((event) => scene()?.placeAt(spotOf(event)) ?? null)
  const brush = useBrush(
    () => area.value,
    (outline) => outlined(outline, true),
  )

  let down: [number, number] = [0, 0]
  function press(event: PointerEvent) {
    down = [event.clientX, event.clientY]
    if (event.button !== 0) return
    if (view.tool === 'paint' && paintTool.begin(event)) canvas.value!.setPointerCapture(event.pointerId)
    if (view.tool === 'brush') {
      if (!isAdding(event)) selection.clear()
      canvas.value!.setPointerCapture(event.pointerId)
      brush.begin(spotOf(event))
    }
  }

  function move(event: PointerEvent) {
    paintTool.move(event)
    brush.move(spotOf(event))
  }

  const isAdding = (event: PointerEvent) => event.shiftKey || event.ctrlKey || event.metaKey

  function spotOf(event: PointerEvent): Spot {
    const around = canvas.value!.getBoundingClientRect()
    return [
      ((event.clientX - around.left) / around.width) * 2 - 1,
      1 - ((event.clientY - around.top) / around.height) * 2,
    ]
  }

  async function release(event: PointerEvent) {
    if (view.tool === 'paint') return paintTool.end()
    if (view.tool === 'brush') return brush.end()
    if (
      Math.hypot(event.clientX - down[0], event.clientY - down[1]) > 4 ||
      event.button !== 0 ||
      !canvas.value ||
      scene()?.handle.busy
    )
      return
    const spot = spotOf(event)
    const add = isAdding(event)
    const dot = scene()?.dotAt(spot) ?? -1
    if (dot >= 0) return void (handles.which.value = handles.targets.value.findIndex((target) => target.index === dot))
    if (view.tool === 'places') return addPlace(spot)
    const hit = await scene()?.pick(spot)
    if (view.tool === 'measure') {
      if (hit) spots.value = [...(spots.value.length === 3 ? [] : spots.value), hit.place]
      return
    }
    const kind = selection.kind.value
    if (!hit) return add ? undefined : selection.clear()
    if (kind === 'face' || kind === 'point' || kind === 'corner' || kind === 'edge')
      selection.pick(hit[kind], add, 'view')
  }

  /** Go on with a list of places: on the surface, or on the ground where there is none. */
  function addPlace(spot: Spot) {
    const place = scene()?.placeAt(spot) ?? scene()?.groundAt(spot)
    if (!place) return
    const toOwn = new THREE.Matrix4().set(...(handles.matrix.value as Parameters<THREE.Matrix4['set']>)).invert()
    const own = new THREE.Vector3().fromArray(place).applyMatrix4(toOwn)
    handles.addPlace(own.toArray().map((part) => Number(part.toFixed(5))) as Spot3)
  }

  function outlined(outline: Spot[], add: boolean) {
    selection.choose(scene()?.within(selection.kind.value, outline) ?? [], add)
  }

  return { spots, paintTool, press, move, release, outlined }
}
