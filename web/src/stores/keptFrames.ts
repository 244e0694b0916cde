/** Answers for frames that were evaluated: going back to one asks nobody. The oldest go when they become too large. */
import type { EvaluationState } from '../api/client'
import { arraysOf, fetchBuffer, sizeOf } from '../api/buffers'

/** Bytes of arrays; those of the page hold more, so that they outlive the answers that name them. */
const MOST_BYTES = 400e6

export interface KeptFrame {
  answer: EvaluationState
  /** Whether all nodes were asked for, or only the one that is looked at. */
  whole: boolean
}

export class KeptFrames {
  /** By what was asked, oldest first; then by frame. */
  private kept = new Map<string, Map<number, KeptFrame & { bytes: number }>>()
  private bytes = 0

  constructor(private readonly most = MOST_BYTES) {}

  get(asked: string, frame: number): KeptFrame | undefined {
    return this.kept.get(asked)?.get(frame)
  }

  /** The frames that are there for this question. */
  frames(asked: string): ReadonlySet<number> {
    return new Set(this.kept.get(asked)?.keys())
  }

  put(asked: string, frame: number, entry: KeptFrame): void {
    const frames = this.kept.get(asked) ?? new Map<number, KeptFrame & { bytes: number }>()
    this.kept.delete(asked)
    this.kept.set(asked, frames)
    this.bytes -= frames.get(frame)?.bytes ?? 0
    const arrays = arraysOf(entry.answer.looks)
    const bytes = arrays.reduce((sum, ref) => sum + sizeOf(ref), 0)
    frames.delete(frame)
    frames.set(frame, { ...entry, bytes })
    this.bytes += bytes
    for (const ref of arrays) void fetchBuffer(ref).catch(() => frames.delete(frame))
    this.shrink()
  }

  private shrink(): void {
    for (const [asked, frames] of this.kept) {
      for (const [frame, entry] of frames) {
        if (this.bytes <= this.most) return
        frames.delete(frame)
        this.bytes -= entry.bytes
      }
      if (!frames.size) this.kept.delete(asked)
    }
  }
}
