/** Where the time of a card went, in words. */
import { duration } from '../shared/numbers'

const WORDS: Record<string, string> = {
  resolve: 'working out values',
  body: 'the work itself',
  'search tree': 'search trees, in that',
  kernel: 'compiled code, in that',
}

/** The parts of a card's time that can be noticed, the longest first. */
export function timeInParts(parts: Record<string, number>, total: number): string {
  const told = Object.entries(parts)
    .filter(([, seconds]) => seconds >= 0.001 && seconds >= total * 0.01)
    .sort(([, a], [, b]) => b - a)
    .map(([name, seconds]) => `${WORDS[name] ?? name.replace(/^node /, 'inside: ')} ${duration(seconds)}`)
  return told.join('\n')
}
