/** Where the time of a card went, in words. */
import { duration } from '../shared/numbers'

const WORDS: Record<string, string> = {
  resolve: 'working out values',
  body: 'the work itself',
  'search tree': 'search trees, in that',
  kernel: 'compiled code, in that',
  query: 'questions to geometries, in that',
  buffers: 'arrays for the page, in that',
}

interface Timed {
  state: string
  seconds: number
  cached: boolean
  parts: Record<string, number>
}

/** The parts of a card's time that can be noticed, the longest first. */
export function partsOfTime(parts: Record<string, number>, total: number): { name: string; seconds: number }[] {
  return Object.entries(parts)
    .filter(([, seconds]) => seconds >= 0.001 && seconds >= total * 0.01)
    .sort(([, a], [, b]) => b - a)
    .map(([name, seconds]) => ({
      name: WORDS[name] ?? name.replace(/^node /, 'inside: ').replace(/^look /, 'asked: '),
      seconds,
    }))
}

/** The same as one text. */
export function timeInParts(parts: Record<string, number>, total: number): string {
  return partsOfTime(parts, total)
    .map((part) => `${part.name} ${duration(part.seconds)}`)
    .join('\n')
}

/** The cards that were evaluated, the dearest first. */
export function rankOf<Report extends Timed>(
  reports: Record<string, Report>,
  ids: string[],
): (Pick<Report, 'seconds' | 'cached' | 'parts'> & { id: string })[] {
  return ids
    .filter((id) => reports[id]?.state === 'done')
    .map((id) => ({ id, seconds: reports[id]!.seconds, cached: reports[id]!.cached, parts: reports[id]!.parts }))
    .sort((a, b) => b.seconds - a.seconds)
}
