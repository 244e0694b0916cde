/** The panels beside the picture: to add one, write its file and an entry here; the rail, the finder and keys follow. */
import type { Component } from 'vue'
import ChecksPanel from './panels/ChecksPanel.vue'
import ComparePanel from './panels/ComparePanel.vue'
import HistoryPanel from './panels/HistoryPanel.vue'
import ProfilePanel from './panels/ProfilePanel.vue'
import TracePanel from './panels/TracePanel.vue'
import WhyPanel from './panels/WhyPanel.vue'

export interface PanelKind {
  name: string
  title: string
  help: string
  shortcut?: string
  component: Component
  /** The part of the documentation that is about it. */
  page?: string
  /** Opened from elsewhere, not from the rail. */
  away?: boolean
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
    name: 'why',
    title: 'Why this value?',
    help: 'which card gave the picked element a value, by what, and from which values',
    shortcut: 'W',
    component: WhyPanel,
    page: 'looking.html#live-values',
  },
  {
    name: 'compare',
    title: 'Compare',
    help: 'hold what is looked at against another card’s result, or itself before an edit',
    component: ComparePanel,
  },
  {
    name: 'history',
    title: 'History',
    help: 'every edit of this graph; look at any moment, name it, or go back to it',
    shortcut: 'Shift+H',
    component: HistoryPanel,
    page: 'looking.html#history',
    away: true,
  },
  {
    name: 'profile',
    title: 'Profile',
    help: 'which cards take how long, and what for; the dearest first',
    shortcut: 'Shift+T',
    component: ProfilePanel,
  },
]
