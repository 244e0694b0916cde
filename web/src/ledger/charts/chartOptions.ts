/** The charts as options of ECharts: what is drawn of which numbers, in the colours of the page. */
import { binned, evenly, fiveNumbers } from '../../model/charts'
import { count, duration, short } from '../../shared/numbers'
import type { Ink } from '../../stores/insight/useInk'

/** Dots that are drawn at most, and bars of a histogram. */
const DOTS = 20_000
const BARS = 60

function axis<More extends { type: 'value' | 'category' }>(ink: Ink, more: More, label: (n: number) => string = short) {
  const isValue = more.type === 'value'
  return {
    axisLabel: { color: ink.faint, fontSize: 12, hideOverlap: true, ...(isValue && { formatter: label }) },
    axisLine: { lineStyle: { color: ink.line } },
    splitLine: { lineStyle: { color: ink.line, opacity: 0.5 } },
    ...more,
  }
}

const base = (ink: Ink) => ({
  grid: { left: 8, right: 16, top: 12, bottom: 6, containLabel: true },
  tooltip: { renderMode: 'richText', confine: true, backgroundColor: ink.text, textStyle: { fontSize: 12 } },
})

/** How values are spread: a histogram over their real range. */
export function spreadChart(ink: Ink, values: ArrayLike<number>) {
  const { low, high, counts } = binned(values, BARS)
  const wide = (high - low) / Math.max(counts.length, 1)
  return {
    ...base(ink),
    xAxis: axis(ink, { type: 'value', min: low, max: high === low ? low + 1 : high }),
    yAxis: axis(ink, { type: 'value' }),
    series: [
      {
        type: 'bar',
        data: counts.map((held, n) => [low + (n + 0.5) * wide, held]),
        barWidth: '96%',
        itemStyle: { color: ink.bar },
      },
    ],
  }
}

/** One column against another: a dot for each element, of very many an even part. */
export function againstChart(ink: Ink, x: ArrayLike<number>, y: ArrayLike<number>, [across, up]: [string, string]) {
  return {
    ...base(ink),
    xAxis: axis(ink, { type: 'value', scale: true, name: across, nameLocation: 'middle', nameGap: 22 }),
    yAxis: axis(ink, { type: 'value', scale: true, name: up }),
    series: [
      {
        type: 'scatter',
        large: true,
        symbolSize: 4,
        itemStyle: { color: ink.bar, opacity: 0.6 },
        data: evenly(x.length, DOTS).map((i) => [x[i], y[i]]),
      },
    ],
  }
}

/** A box of five numbers for all elements, and for those of each group that has some. */
export function groupChart(ink: Ink, values: Float64Array, groups: { name: string; flags: ArrayLike<number> }[]) {
  const rows = [
    { name: 'all', five: fiveNumbers(values) },
    ...groups.map(({ name, flags }) => ({ name, five: fiveNumbers(values.filter((_, i) => flags[i])) })),
  ].filter((row) => row.five)
  return {
    ...base(ink),
    xAxis: axis(ink, { type: 'category', data: rows.map((row) => row.name) }),
    yAxis: axis(ink, { type: 'value', scale: true }),
    series: [
      {
        type: 'boxplot',
        data: rows.map((row) => row.five),
        itemStyle: { color: 'transparent', borderColor: ink.live },
      },
    ],
  }
}

/** What each card makes and takes. */
export function cardChart(ink: Ink, cards: { title: string; seconds: number; faces: number }[]) {
  const frame = base(ink)
  return {
    ...frame,
    grid: { ...frame.grid, right: 8 },
    xAxis: axis(ink, { type: 'category', data: cards.map((card) => card.title) }),
    yAxis: [
      axis(ink, { type: 'value', name: 'faces' }, count),
      axis(ink, { type: 'value', name: 'time', splitLine: { show: false } }, duration),
    ],
    series: [
      { type: 'bar', name: 'faces', data: cards.map((card) => card.faces), itemStyle: { color: ink.bar } },
      {
        type: 'bar',
        name: 'time',
        yAxisIndex: 1,
        data: cards.map((card) => card.seconds),
        itemStyle: { color: ink.live },
      },
    ],
  }
}
