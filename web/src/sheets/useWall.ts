/** Which cells of a wall are in sight: rows of cells under headings, of any number. */
import { computed, type Ref } from 'vue'
import type { Variant } from '../model/sheets'

export interface Strip {
  /** From the top of the wall, px. */
  at: number
  title: string
  cells: Variant[]
}

export const HEADING = 30
export const GAP = 8

export function useWall(
  groups: Ref<{ title: string; variants: Variant[] }[]>,
  width: Ref<number>,
  height: Ref<number>,
  scrolled: Ref<number>,
  cell: Ref<{ least: number; tall: number }>,
) {
  const across = computed(() => Math.max(1, Math.floor((width.value - GAP) / (cell.value.least + GAP))))
  const strips = computed(() => {
    const made: Strip[] = []
    let at = GAP
    for (const { title, variants } of groups.value) {
      if (title) {
        made.push({ at, title, cells: [] })
        at += HEADING
      }
      for (let first = 0; first < variants.length; first += across.value) {
        made.push({ at, title: '', cells: variants.slice(first, first + across.value) })
        at += cell.value.tall + GAP
      }
    }
    return { made, tall: at }
  })
  const tallOf = (strip: Strip) => (strip.title ? HEADING : cell.value.tall)
  return {
    across,
    tall: computed(() => strips.value.tall),
    inSight: computed(() =>
      strips.value.made.filter(
        (strip) => strip.at + tallOf(strip) > scrolled.value - 200 && strip.at < scrolled.value + height.value + 200,
      ),
    ),
  }
}
