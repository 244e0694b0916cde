/** What is seen, as a PNG. */
import type { Scene } from '../rendering/scene'

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
    async save(name: string, backdrop: boolean): Promise<void> {
      const source = await settled()
      if (!source) return
      const [made, context] = paper(source.width, source.height, backdrop)
      context.drawImage(source, 0, 0)
      const link = Object.assign(document.createElement('a'), {
        href: made.toDataURL('image/png'),
        download: `${name}.png`,
      })
      link.click()
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
