/** Chosen keys of the curve editor, and what is done to all of them at once. */
import { computed, shallowRef } from 'vue'
import {
  changedKeys,
  copiedKeys,
  movedKeys,
  withoutKeys,
  type Key,
  type Keyed,
  type Way,
} from '../model/time/keyedValues'
import { useKeyedValues, type KeyedValue } from '../stores/useKeyedValues'

export function useKeySelection() {
  const values = useKeyedValues()
  /** Chosen frames, by the value whose keys they are. */
  const chosen = shallowRef<Readonly<Record<string, readonly number[]>>>({})
  /** Keys that were put by, to be set again elsewhere. */
  const clipboard = shallowRef<{ value: KeyedValue; frames: readonly number[] }[]>([])

  const entries = computed(() =>
    values.all.value
      .map((value) => ({
        value,
        frames: (chosen.value[value.id] ?? []).filter((at) => value.keyed.keys.some((key) => key.frame === at)),
      }))
      .filter((entry) => entry.frames.length),
  )
  const keys = computed(() =>
    entries.value.flatMap(({ value, frames }) => value.keyed.keys.filter((key) => frames.includes(key.frame))),
  )

  function change(label: string, make: (keyed: Keyed, frames: readonly number[]) => unknown, done = true): void {
    const made = entries.value.map(({ value, frames }) => [value, make(value.keyed, frames)] as [KeyedValue, unknown])
    if (made.length) values.change(made, label, done)
  }

  /** Bring the chosen keys to other frames; they stay chosen. */
  function bring(label: string, to: (frame: number) => number): void {
    const there = entries.value.map(({ value, frames }) => [value.id, frames.map(to)])
    change(label, (keyed, frames) => movedKeys(keyed, frames, to))
    chosen.value = Object.fromEntries(there) as Record<string, number[]>
  }

  return {
    chosen,
    entries,
    keys,
    clipboard,
    isChosen: (id: string, frame: number) => chosen.value[id]?.includes(frame) ?? false,

    chooseAll(found: Record<string, readonly number[]>): void {
      chosen.value = found
    },
    choose(id: string, frame: number, more: boolean): void {
      const old = chosen.value[id] ?? []
      if (!more) chosen.value = { [id]: [frame] }
      else
        chosen.value = {
          ...chosen.value,
          [id]: old.includes(frame) ? old.filter((one) => one !== frame) : [...old, frame],
        }
    },

    setWay: (way: Way) =>
      change(`make keys ${way}`, (keyed, frames) => changedKeys(keyed, frames, (key) => ({ ...key, way }))),
    setOutside: (side: 'before' | 'after', how: string) =>
      change(`set what is ${side} the keys`, (keyed) => ({ ...keyed, [side]: how })),
    setFrame: (frame: number) => bring('move keys', () => frame),
    setValue: (value: unknown) =>
      change('set the value of keys', (keyed, frames) => changedKeys(keyed, frames, (key) => ({ ...key, value }))),
    setKey: (make: (key: Key) => Key, label: string, done: boolean) =>
      change(label, (keyed, frames) => changedKeys(keyed, frames, make), done),
    remove(): void {
      change('delete keys', withoutKeys)
      chosen.value = {}
    },
    scale(times: number): void {
      const from = Math.min(...keys.value.map((key) => key.frame))
      bring('scale keys', (frame) => Math.round(from + (frame - from) * times))
    },
    copy(): void {
      clipboard.value = entries.value
    },
    /** Set the keys that were put by so that the first of them is at a frame. */
    paste(at: number): void {
      const first = Math.min(...clipboard.value.flatMap((entry) => entry.frames))
      const now = clipboard.value.map(({ value, frames }) => ({
        value: values.all.value.find((one) => one.id === value.id),
        frames,
      }))
      const made = now.flatMap(({ value, frames }) =>
        value ? [[value, copiedKeys(value.keyed, frames, at - first)] as [KeyedValue, unknown]] : [],
      )
      if (made.length) values.change(made, 'copy keys')
    },
    /** Move keys by frames and, for each value, by how much its numbers grow; `held` is what was chosen before that. */
    carry(
      held: readonly { value: KeyedValue; frames: readonly number[] }[],
      frames: number,
      grown: (value: KeyedValue) => (number: number, part: number) => number,
      done: boolean,
    ): void {
      const made = held.map(({ value, frames: at }) => {
        const grow = grown(value)
        const lifted = changedKeys(value.keyed, at, (key) => ({ ...key, value: lift(key.value, grow) }))
        return [value, movedKeys(lifted, at, (frame) => frame + frames)] as [KeyedValue, unknown]
      })
      if (made.length) values.change(made, 'move keys', done)
      chosen.value = Object.fromEntries(held.map(({ value, frames: at }) => [value.id, at.map((one) => one + frames)]))
    },
  }
}

function lift(value: unknown, grow: (number: number, part: number) => number): unknown {
  if (typeof value === 'number') return grow(value, 0)
  if (Array.isArray(value) && value.every((part) => typeof part === 'number'))
    return value.map((part, n) => grow(part, n))
  return value
}
