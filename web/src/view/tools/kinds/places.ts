/** Goes on with the list of places of the chosen card: on the surface, or on the ground where there is none. */
import * as THREE from 'three'
import type { Spot3 } from '../measurement'
import type { ToolKind } from '../tool'

export const places: ToolKind = {
  name: 'places',
  help: 'Click on the surface, or on the ground, to go on with the places of the chosen card; their handles are dragged.',
  make({ scene, handles }) {
    return {
      turns: true,
      cursor: 'crosshair',
      offered: () => handles.places.value !== null,
      onClick({ spot }) {
        const place = scene()?.placeAt(spot) ?? scene()?.groundAt(spot)
        if (!place) return
        const toOwn = new THREE.Matrix4().set(...(handles.matrix.value as Parameters<THREE.Matrix4['set']>)).invert()
        const own = new THREE.Vector3().fromArray(place).applyMatrix4(toOwn)
        handles.addPlace(own.toArray().map((part) => Number(part.toFixed(5))) as Spot3)
      },
    }
  },
}
