/** All tools of the view, in the order in which they stand at its edge; the digits take them up. */
import { brush } from './kinds/brush'
import { click } from './kinds/click'
import { measure } from './kinds/measure'
import { box, lasso } from './kinds/outline'
import { paint } from './kinds/paint'
import { places } from './kinds/places'
import type { ToolKind } from './tool'

export const TOOLS: readonly ToolKind[] = [click, box, lasso, brush, measure, places, paint]
/** What is taken up when another tool is laid down. */
export const USUAL = click.name
