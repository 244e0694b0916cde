/** The colours of the picture, from the page's theme. */
import * as THREE from 'three'
import type { Theme } from '../../stores/useTheme'

const CLAY: Record<Theme, [number, number, number]> = { day: [0.88, 0.8, 0.7], night: [0.74, 0.72, 0.68] }

export function paletteOf(theme: Theme) {
  const style = getComputedStyle(document.documentElement)
  const hue = (variable: string) => new THREE.Color(style.getPropertyValue(variable).trim())
  return {
    clay: new THREE.Color(...CLAY[theme]),
    wire: hue(theme === 'night' ? '--line' : '--wire'),
    curve: hue('--wire'),
    point: hue('--ink'),
    chosen: hue('--accent'),
    normal: hue('--accent'),
    border: hue('--edge-border'),
    crease: hue('--edge-crease'),
    crowded: hue('--edge-crowded'),
    haze: hue('--backdrop-bottom'),
    ground: hue(theme === 'night' ? '--faint-ink' : '--ink'),
  }
}
