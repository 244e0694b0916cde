/** What is seen, as a PNG. */
import type { Scene } from '../rendering/scene'

/** A still picture as it is wished for. */
export interface StillWish {
  name: string
  title: string
  backdrop: boolean
  /** Pixels across; none: as it is seen. */
  width?: number
}

export const STILLS: readonly StillWish[] = [
  { name: 'backdrop', title: 'as it is seen, with the backdrop', backdrop: true },
  { name: 'clear', title: 'as it is seen, on nothing', backdrop: false },
  { name: 'large', title: 'large: 3,840 pixels across', backdrop: true, width: 3840 },
  { name: 'very large', title: 'very large: 7,680 pixels across', backdrop: true, width: 7680 },
  { name: 'very large clear', title: 'very large, on nothing', backdrop: false, width: 7680 },
]

const PAGE = { width: 640, height: 400 }

export function useSnapshot(canvas: () => HTMLCanvasElement | undefined, scene: () => Scene | null) {
  /** Wait until the newest picture is on the canvas. */
  async function settled(): Promise<HTMLCanvasElement | null> {
    const source = canvas()
    if (!source?.width) return null
    scene()?.draw()
    await new Promise((wake) => requestAnimationFrame(() => requestAnimationFrame(wake)))
    return source
  }

  function paper(width: number, height: number, backdrop: boolean): [HTMLCanvasElement, CanvasRenderingContext2D] {
    const made = Object.assign(document.createElement('canvas'), { width, height })
    const context = made.getContext('2d')!
    if (backdrop) {
      const style = getComputedStyle(document.documentElement)
      const shade = context.createLinearGradient(0, 0, 0, height)
      shade.addColorStop(0, style.getPropertyValue('--backdrop-top'))
      shade.addColorStop(1, style.getPropertyValue('--backdrop-bottom'))
      context.fillStyle = shade
      context.fillRect(0, 0, width, height)
    }
    return [made, context]
  }

  return {
    /** Save what is seen. */
    async save(name: string, { backdrop, width }: StillWish): Promise<void> {
      const source = await settled()
      if (!source) return
      const wide = width ?? source.width
      const [made, context] = paper(wide, Math.round((wide * source.height) / source.width), backdrop)
      if (width) scene()?.still(made.width, made.height, (tile, x, y) => context.drawImage(tile, x, y))
      else context.drawImage(source, 0, 0)
      const file = await new Promise<Blob | null>((done) => made.toBlob(done, 'image/png'))
      if (!file) return
      const href = URL.createObjectURL(file)
      Object.assign(document.createElement('a'), { href, download: `${name}.png` }).click()
      setTimeout(() => URL.revokeObjectURL(href), 60_000)
    },

    /** What is seen now, as a PNG of a size in pixels. */
    async still({ width, height, backdrop }: { width: number; height: number; backdrop: boolean }): Promise<Blob> {
      await settled()
      const [made, context] = paper(width, height, backdrop)
      scene()?.still(width, height, (tile, x, y) => context.drawImage(tile, x, y))
      const file = await new Promise<Blob | null>((done) => made.toBlob(done, 'image/png'))
      if (!file) throw new Error(`A picture of ${width} by ${height} pixels is too large for this browser.`)
      return file
    },

    /** The view as a picture for the page of an operator. */
    async picture(): Promise<string> {
      const source = await settled()
      if (!source) return ''
      const [made, context] = paper(PAGE.width, PAGE.height, true)
      const scale = Math.max(PAGE.width / source.width, PAGE.height / source.height)
      context.drawImage(
        source,
        (PAGE.width - source.width * scale) / 2,
        (PAGE.height - source.height * scale) / 2,
        source.width * scale,
        source.height * scale,
      )
      return made.toDataURL('image/png')
    },
  }
}
