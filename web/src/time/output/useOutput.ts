/** All frames as files: the mesh of each one, or what the view shows, as pictures or a film. */
import { ref } from 'vue'
import { api } from '../../api/client'
import { useGraph } from '../../stores/useGraph'
import { useTime } from '../../stores/useTime'
import type { ViewSurface } from '../../view/surface'
import { ZipFile } from './zip'

export interface FramesWish {
  first: number
  last: number
  step: number
}
export interface FilmWish extends FramesWish {
  /** `png`: pictures, one file each. */
  format: string
  width: number
  height: number
  /** Draw what is behind the shape, too. */
  backdrop: boolean
}
export interface FilesWish extends FramesWish {
  format: string
  encoding: string
}

class Stopped extends Error {}

/** The frames that are wished for, in order. */
export function framesOf({ first, last, step }: FramesWish): number[] {
  return Array.from({ length: Math.max(0, Math.floor((last - first) / step) + 1) }, (_, n) => first + n * step)
}

/** The name of the file of a frame: numbers as wide as the widest, so that they stand in order. */
export function numbered(stem: string, frame: number, all: readonly number[], ending: string): string {
  const wide = Math.max(4, ...all.map((one) => String(Math.abs(one)).length))
  return `${stem}.${frame < 0 ? '-' : ''}${String(Math.abs(frame)).padStart(wide, '0')}.${ending}`
}

export function useOutput(view: () => ViewSurface | undefined) {
  const graph = useGraph()
  const time = useTime()
  const progress = ref<{ done: number; total: number; what: string } | null>(null)
  const trouble = ref('')
  let stopping = false
  let abort = new AbortController()

  const stem = () => (graph.root.value.title || 'frames').toLowerCase().replace(/[^\w-]+/g, '_')

  /** Do something for each frame, until it is stopped; where one was before is where one is afterwards. */
  async function each(frames: number[], what: string, make: (frame: number) => Promise<void>): Promise<void> {
    for (const [done, frame] of frames.entries()) {
      if (stopping) throw new Stopped()
      progress.value = { done, total: frames.length, what: `${what} ${frame}` }
      await make(frame)
    }
    if (stopping) throw new Stopped()
  }

  async function run(make: () => Promise<void>): Promise<void> {
    const before = time.frame.value
    stopping = false
    abort = new AbortController()
    trouble.value = ''
    try {
      await make()
    } catch (error) {
      const quiet = error instanceof Stopped || abort.signal.aborted
      trouble.value = quiet ? 'Stopped; nothing was saved.' : error instanceof Error ? error.message : String(error)
    } finally {
      progress.value = null
      if (time.frame.value !== before) time.go(before)
    }
  }

  function hand(file: Blob, name: string): void {
    const href = URL.createObjectURL(file)
    Object.assign(document.createElement('a'), { href, download: name }).click()
    setTimeout(() => URL.revokeObjectURL(href), 60_000)
  }

  return {
    progress,
    trouble,
    stop(): void {
      stopping = true
      abort.abort()
    },

    /** The mesh that is looked at, at each frame, in one ZIP. */
    files: (wish: FilesWish) =>
      run(async () => {
        const zip = new ZipFile()
        const frames = framesOf(wish)
        const { id } = graph.state.value!
        await each(frames, 'frame', async (frame) => {
          const asked = {
            ...wish,
            node: graph.document.value.looking_at ?? '',
            level: graph.path.value.join('/'),
            frame,
          }
          const bytes = await api.exported(id, asked, abort.signal)
          zip.add(numbered(stem(), frame, frames, wish.format), bytes, false)
        })
        hand(zip.end(), `${stem()}-${wish.format}.zip`)
      }),

    /** What the view shows at each frame: pictures in a ZIP, or a film that the service joins. */
    film: (wish: FilmWish) =>
      run(async () => {
        const zip = new ZipFile()
        const frames = framesOf(wish)
        await each(frames, 'frame', async (frame) => {
          const picture = await view()!.pictureAt(frame, wish)
          zip.add(numbered(stem(), frame, frames, 'png'), new Uint8Array(await picture.arrayBuffer()), true)
        })
        const pictures = zip.end()
        if (wish.format === 'png') return hand(pictures, `${stem()}-png.zip`)
        progress.value = { done: frames.length, total: frames.length, what: 'joining them' }
        const rate = time.timeline.value.rate / wish.step
        hand(
          await api.joined(graph.state.value!.id, pictures, wish.format, rate, abort.signal),
          `${stem()}.${wish.format}`,
        )
      }),
  }
}
