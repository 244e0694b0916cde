/** How the view looks inside of another page: it brings all of it along. */
import * as THREE from 'three'
import type { Palette } from '../view/rendering/picture'

const hue = (text: string) => new THREE.Color(text)

/** The colours of the picture by day. */
export const palette = (): Palette => ({
  clay: new THREE.Color(0.88, 0.8, 0.7),
  wire: hue('#6f7f80'),
  curve: hue('#6f7f80'),
  point: hue('#1f2a2c'),
  chosen: hue('#b8431b'),
  normal: hue('#b8431b'),
  border: hue('#0f6f80'),
  crease: hue('#3a3128'),
  crowded: hue('#a3182b'),
  haze: hue('#f8f5ec'),
  ground: hue('#1f2a2c'),
})

export const STYLE = `
:host { display: block; font: 13px/1.4 system-ui, sans-serif; color: #1f2a2c; }
.pictures { display: grid; grid-auto-flow: column; grid-auto-columns: 1fr; gap: 8px; }
figure { margin: 0; border: 1px solid #d5ccb9; border-radius: 5px; overflow: hidden; background: #f8f5ec; min-width: 0; }
.stage { position: relative; background: linear-gradient(#e9e3d4, #f8f5ec); }
canvas { display: block; width: 100%; height: 100%; touch-action: none; }
canvas:focus-visible { outline: 2px solid #b8431b; outline-offset: -2px; }
figcaption { display: flex; flex-wrap: wrap; gap: 4px 10px; padding: 5px 9px; border-top: 1px solid #d5ccb9; }
figcaption b { font-weight: 600; }
.faint { color: #566064; }
.bar { display: flex; flex-wrap: wrap; gap: 6px 12px; align-items: center; padding: 0 0 6px; }
.bar label { display: flex; gap: 5px; align-items: center; }
select, input, button { font: inherit; color: inherit; background: #fff; border: 1px solid #a89d86; border-radius: 4px;
  padding: 2px 6px; }
button[aria-pressed=true] { background: #fbe6da; border-color: #b8431b; }
:is(select, input, button):focus-visible { outline: 2px solid #b8431b; outline-offset: 1px; }
.legend { position: absolute; left: 9px; bottom: 9px; padding: 5px 9px; background: #fbf8f0e8; border: 1px solid #d5ccb9;
  border-radius: 5px; min-width: 120px; max-width: 60%; }
.scale { height: 9px; border-radius: 3px; margin: 3px 0; }
.ends { display: flex; justify-content: space-between; gap: 12px; font-variant-numeric: tabular-nums; }
.words { display: grid; grid-template-columns: 12px 1fr; gap: 2px 6px; align-items: center; max-height: 110px; overflow: auto; }
.words i { width: 11px; height: 11px; border-radius: 2px; }
.dials { display: grid; grid-template-columns: max-content minmax(120px, 320px) max-content; gap: 4px 10px;
  align-items: center; padding: 0 0 8px; }
.dials input[type=range] { width: 100%; padding: 0; accent-color: #b8431b; }
.dials .several { display: flex; gap: 4px; }
.dials input[type=number] { width: 84px; }
.dials input[type=checkbox] { justify-self: start; }
.trouble { color: #a3182b; padding: 0 0 6px; white-space: pre-wrap; }
`
