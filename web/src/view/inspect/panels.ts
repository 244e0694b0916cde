/** The panels beside the picture: to add one, write its file and an entry here; the rail, the finder and keys follow. */
import type { Component } from 'vue'
import ChecksPanel from './panels/ChecksPanel.vue'
import ComparePanel from './panels/ComparePanel.vue'
import ProfilePanel from './panels/ProfilePanel.vue'
import TracePanel from './panels/TracePanel.vue'

export interface PanelKind {
  name: string
  title: string
  help: string
  shortcut?: string
  component: Component
}

export const PANELS: readonly PanelKind[] = [
  {
    name: 'checks',
    title: 'Checks',
    help: 'what is wrong with what is looked at, and where',
    shortcut: 'Shift+C',
    component: ChecksPanel,
  },
  {
    name: 'trace',
    title: 'Trace',
    help: 'which card made the picked element, and from what',
    shortcut: 'T',
    component: TracePanel,
  },
  {
    name: 'compare',
    title: 'Compare',
    help: 'hold what is looked at against another card’s result, or itself before an edit',
    component: ComparePanel,
  },
  {
    name: 'profile',
    title: 'Profile',
    help: 'which cards take how long, and what for; the dearest first',
    shortcut: 'Shift+T',
    component: ProfilePanel,
  },
]
