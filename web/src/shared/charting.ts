/** The parts of ECharts that charts here are made of. */
import { BarChart, BoxplotChart, ScatterChart } from 'echarts/charts'
import { BrushComponent, GridComponent, TooltipComponent } from 'echarts/components'
import { init, use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'

use([BarChart, BoxplotChart, ScatterChart, BrushComponent, GridComponent, TooltipComponent, CanvasRenderer])

export { init }
