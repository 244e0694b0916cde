/** One shape in a picture of its own, with its legend: turned by dragging, or turning by itself. */
import type { AttributeLook } from '../api/results'
import { colorize, isColor } from '../view/color/colors'
import { fetchMesh, fetchValues } from '../view/rendering/meshData'
import { Scene } from '../view/rendering/scene'
import { element } from './elements'
import { legendOf } from './legend'
import type { ShownShape, Wish } from './model'
import { palette } from './style'

export class ShapePicture {
  readonly figure = element('figure')
  private readonly canvas = element('canvas', { tabIndex: 0 })
  private readonly stage = element('div', { className: 'stage' }, [this.canvas])
  private readonly caption = element('figcaption')
  private readonly scene: Scene
  private readonly watch: ResizeObserver
  private legend: HTMLElement | null = null
  private framed = ''
  private round = 0
  private turning = 0

  constructor(height: number) {
    this.stage.style.height = `${height}px`
    this.figure.append(this.stage, this.caption)
    this.scene = new Scene(this.canvas)
    this.scene.setPalette(palette())
    this.scene.setLook('plain', false, 'solid')
    // A page scrolls under the pointer until somebody has clicked into the picture.
    this.scene.controls.enableZoom = false
    this.canvas.onpointerdown = () => (this.scene.controls.enableZoom = true)
    this.canvas.onpointerleave = () => (this.scene.controls.enableZoom = false)
    this.watch = new ResizeObserver(() => this.scene.resize(this.stage.clientWidth, this.stage.clientHeight))
    this.watch.observe(this.stage)
  }

  /** Show a shape with its colours; a later call wins over one that is still reading. */
  async show(
    shape: ShownShape,
    look: AttributeLook | null,
    wish: Wish | null,
    range: [number, number] | null,
  ): Promise<void> {
    const round = ++this.round
    const mesh = await fetchMesh(shape.mesh)
    const made = look && colorize(look, await fetchValues(look), wish?.part ?? '', 'even', range)
    if (round !== this.round) return
    const tint = look && made ? { kind: look.kind, colors: made.colors, depth: isColor(look) ? 0.55 : 0.28 } : null
    const smooth = mesh.triangleFace.length > 3000
    this.scene.setShown({ faces: true, wire: !smooth, points: false, smooth })
    this.scene.show({ mesh, tint: tint ? inParts(tint, look?.parts) : null, edges: null, radii: null })
    this.scene.resize(this.stage.clientWidth, this.stage.clientHeight)
    const size = JSON.stringify(mesh.bounds)
    if (!this.framed) this.scene.frame(mesh.bounds, true)
    this.framed = size
    this.legend?.remove()
    this.legend = made && look && made.legend.form !== 'color' ? legendOf(made.legend, look.kind) : null
    if (this.legend) this.stage.append(this.legend)
    this.caption.replaceChildren(
      ...(shape.title ? [element('b', { textContent: shape.title })] : []),
      element('span', { className: 'faint', textContent: shape.counts }),
    )
    this.canvas.ariaLabel = `${shape.title} ${shape.counts}`.trim()
    this.canvas.dataset.shown = String(this.round)
  }

  frame(): void {
    if (this.framed) this.scene.frame(JSON.parse(this.framed) as [number[], number[]])
  }

  /** Turn slowly, or stand still. */
  turn(on: boolean): void {
    cancelAnimationFrame(this.turning)
    this.scene.controls.autoRotate = on
    if (!on) return
    const step = () => {
      this.scene.controls.update()
      this.scene.draw()
      this.turning = requestAnimationFrame(step)
    }
    step()
  }

  dispose(): void {
    this.turn(false)
    this.watch.disconnect()
    this.scene.dispose()
  }
}

type Tint = { kind: AttributeLook['kind']; colors: Float32Array; depth: number }

/** Colours of the shape itself come first, then those of each shape that stands in it. */
function inParts(tint: Tint, parts: number[] | undefined): Tint & { placed?: (Float32Array | null)[] } {
  if (!parts) return tint
  let at = 0
  const [own, ...placed] = parts.map((rows) => (rows ? tint.colors.subarray(at * 3, (at += rows) * 3) : null))
  return { ...tint, colors: own ?? new Float32Array(0), placed }
}
