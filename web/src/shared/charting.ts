/** The parts of ECharts that charts here are made of. */
import { BarChart, BoxplotChart, LineChart, ParallelChart, ScatterChart } from 'echarts/charts'
import { BrushComponent, GridComponent, ParallelComponent, TooltipComponent } from 'echarts/components'
import { init, use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'

use([
  BarChart,
  BoxplotChart,
  ParallelChart,
  LineChart,
  ScatterChart,
  BrushComponent,
  GridComponent,
  ParallelComponent,
  TooltipComponent,
  CanvasRenderer,
])

export { init }
