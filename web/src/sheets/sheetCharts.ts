/** The plots of a sheet as options of ECharts: one column against another, and all columns beside each other. */
import type { Column, Variant } from '../model/sheets'
import { headed, said, written } from '../model/sheets'
import { short } from '../shared/numbers'
import type { Ink } from '../stores/insight/useInk'

/** Variants that are shown, those that are chosen, and the best of a search. */
export interface Marked {
  best: ReadonlySet<number>
  shown: ReadonlySet<number>
  chosen: ReadonlySet<number>
}

const made = (variants: readonly Variant[]) => variants.filter((one) => one.state === 'done')

/** A dot for each variant; those that are not shown are faint, chosen ones stand out, the best are diamonds.
 *
 * `isFront`: a line goes through the best.
 */
export function scatterChart(
  ink: Ink,
  variants: readonly Variant[],
  x: Column,
  y: Column,
  marked: Marked,
  isFront = false,
) {
  const axis = (column: Column) => ({
    type: 'value',
    scale: true,
    name: headed(column),
    nameTextStyle: { color: ink.text },
    axisLabel: { color: ink.faint, fontSize: 12, hideOverlap: true, formatter: short },
    axisLine: { lineStyle: { color: ink.line } },
    splitLine: { lineStyle: { color: ink.line, opacity: 0.5 } },
  })
  const dots = made(variants).filter((one) => typeof x.of(one) === 'number' && typeof y.of(one) === 'number')
  const best = dots.filter((one) => marked.best.has(one.number))
  const size = (one: Variant) => (marked.chosen.has(one.number) ? 13 : marked.best.has(one.number) ? 11 : 8)
  return {
    grid: { left: 14, right: 20, top: 30, bottom: 30, containLabel: true },
    tooltip: {
      renderMode: 'richText',
      confine: true,
      backgroundColor: ink.text,
      textStyle: { fontSize: 12 },
      formatter: ({ data }: { data: { name: string } }) => data.name,
    },
    xAxis: { ...axis(x), nameLocation: 'middle', nameGap: 26 },
    yAxis: axis(y),
    series: [
      {
        type: 'line',
        data: isFront ? best.map((one) => [x.of(one), y.of(one)] as number[]).sort((a, b) => a[0]! - b[0]!) : [],
        showSymbol: false,
        silent: true,
        lineStyle: { color: ink.text, width: 1, type: 'dashed' },
      },
      {
        type: 'scatter',
        data: dots.map((one) => ({
          value: [x.of(one), y.of(one)],
          name: `${one.number}: ${said(x, one)}, ${said(y, one)}`,
          symbol: marked.best.has(one.number) ? 'diamond' : 'circle',
          symbolSize: size(one),
          itemStyle: {
            borderColor: ink.text,
            borderWidth: marked.best.has(one.number) ? 1.5 : 0,
            color: marked.chosen.has(one.number) || marked.best.has(one.number) ? ink.live : ink.bar,
            opacity: marked.shown.has(one.number) ? 0.85 : 0.15,
          },
        })),
      },
    ],
  }
}

/** A line for each variant through its values of all columns of numbers. */
export function parallelChart(ink: Ink, variants: readonly Variant[], columns: readonly Column[], marked: Marked) {
  const lines = made(variants)
  return {
    parallel: { left: 44, right: 44, top: 34, bottom: 18 },
    parallelAxis: columns.map((column, dim) => ({
      id: column.key,
      dim,
      name: headed(column),
      type: column.isNumber ? 'value' : 'category',
      ...(column.isNumber ? { scale: true } : { data: [...new Set(lines.map((one) => written(column.of(one))))] }),
      nameTextStyle: { color: ink.text, fontSize: 12 },
      axisLabel: { color: ink.faint, fontSize: 11, hideOverlap: true, ...(column.isNumber && { formatter: short }) },
      axisLine: { lineStyle: { color: ink.faint } },
      areaSelectStyle: { width: 16, color: ink.live, borderColor: ink.live, opacity: 0.25 },
    })),
    series: [
      {
        type: 'parallel',
        inactiveOpacity: 0.05,
        activeOpacity: 0.8,
        data: lines.map((one) => ({
          value: columns.map((column) => (column.isNumber ? column.of(one) : written(column.of(one)))),
          name: String(one.number),
          lineStyle: {
            color: marked.chosen.has(one.number) ? ink.live : ink.bar,
            width: marked.chosen.has(one.number) ? 3 : 1.2,
            opacity: marked.shown.has(one.number) ? 0.7 : 0.06,
          },
        })),
      },
    ],
  }
}
