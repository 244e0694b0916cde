/** What the colours mean, as plain elements. */
import { short } from '../shared/numbers'
import type { Legend } from '../view/color/colors'
import { element } from './elements'

const WORDS = 24

export function legendOf(legend: Legend, kind: string): HTMLElement {
  const box = element('div', { className: 'legend' })
  const title = element('div', {}, [element('b', { textContent: legend.title })])
  const unit = legend.form === 'range' && legend.unit ? ` in ${legend.unit},` : ''
  title.append(element('span', { className: 'faint', textContent: `${unit} per ${kind}` }))
  box.append(title)
  if (legend.form === 'range') {
    const scale = element('div', { className: 'scale' })
    scale.style.background = legend.gradient
    const ends = [legend.from, legend.to].map((value) => element('span', { textContent: short(value) }))
    box.append(scale, element('div', { className: 'ends' }, ends))
  }
  if (legend.form === 'flag')
    box.append(
      words([
        { text: `yes: ${legend.members.toLocaleString('en-US')}`, color: legend.yes },
        { text: `no: ${(legend.total - legend.members).toLocaleString('en-US')}`, color: legend.no },
      ]),
    )
  if (legend.form === 'words') {
    const more = legend.words.length - WORDS
    box.append(words(legend.words.slice(0, WORDS).map(({ text, color }) => ({ text: text || '(nothing)', color }))))
    if (more > 0) box.append(element('div', { className: 'faint', textContent: `and ${more} more` }))
  }
  return box
}

function words(entries: { text: string; color: string }[]): HTMLElement {
  const list = element('div', { className: 'words' })
  for (const { text, color } of entries) {
    const spot = element('i')
    spot.style.background = color
    list.append(spot, element('span', { textContent: text }))
  }
  return list
}
