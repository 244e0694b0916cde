/** Every action of the bench, in one list: the finder shows it, shortcuts run it. */
import type { Ref } from 'vue'
import type { BoardSurface } from '../board/surface'
import type { DialsSurface } from '../dials/surface'
import type { Action } from '../model/actions'
import { useChanges } from '../stores/useChanges'
import { useEvaluation } from '../stores/useEvaluation'
import { useGraph } from '../stores/useGraph'
import { useHelp } from '../stores/insight/useHelp'
import { useInspection } from '../stores/useInspection'
import { usePackages } from '../stores/usePackages'
import { useSelection } from '../stores/useSelection'
import { useTime } from '../stores/useTime'
import { useTheme } from '../stores/useTheme'
import { useView } from '../stores/useView'
import { PANELS } from '../view/inspect/panels'
import { TOOLS } from '../view/tools/list'
import type { ViewSurface } from '../view/surface'
import { useSheets } from '../sheets/useSheets'
import { useCardActions } from './useCardActions'

interface Surfaces {
  board: Ref<BoardSurface | undefined>
  picture: Ref<ViewSurface | undefined>
  dials: Ref<DialsSurface | undefined>
  wholeBoard: () => void
  wholeView: () => void
  boardSplit: { toggle: () => void }
  drawerSplit: Readonly<Ref<{ toggle: () => void }>>
  /** The script whose text is in the drawer, and a chosen one whose text could be. */
  writing: Ref<string | null>
  scriptCard: Readonly<Ref<string | null>>
  freeze: () => Promise<unknown>
}

/** Dialogs, by whether they are open. */
type Dialogs = Record<'finding' | 'helping' | 'touring' | 'shaping' | 'demos', Ref<boolean>>

export function useBenchActions(on: Surfaces, open: Dialogs): Action[] {
  const graph = useGraph()
  const evaluation = useEvaluation()
  const selection = useSelection()
  const changes = useChanges()
  const theme = useTheme()
  const view = useView()
  const time = useTime()
  const inspect = useInspection()
  const help = useHelp()
  const proofs = useSheets()
  const { browsing, publishing } = usePackages()
  const { remove, duplicate, skip, lookAt, ghost, haveCards, nests, holds, folded } = useCardActions(
    () => on.board.value,
  )

  const asCards = () => on.board.value?.form === 'cards'

  return [
    { name: 'Find', help: 'search operators and actions', shortcut: '/', run: () => (open.finding.value = true) },
    {
      name: 'Undo',
      help: 'take the last edit back',
      shortcut: 'Ctrl+Z',
      enabled: () => graph.undoLabel.value !== null,
      run: () => void graph.undo(),
    },
    {
      name: 'Redo',
      help: 'do the edit again that was taken back',
      shortcut: 'Ctrl+Shift+Z',
      enabled: () => graph.redoLabel.value !== null,
      run: () => void graph.redo(),
    },
    {
      name: 'Remove',
      help: 'remove the selected cards or wire; what they fed is fed from before them',
      shortcut: 'Delete',
      run: remove,
    },
    { name: 'Duplicate', help: 'copy the selected cards', shortcut: 'Ctrl+D', enabled: haveCards, run: duplicate },
    {
      name: 'Skip',
      help: 'pass the geometry through the selected cards unchanged',
      shortcut: 'K',
      enabled: haveCards,
      run: skip,
    },
    { name: 'Look at', help: 'show the result of the selected card', shortcut: 'L', enabled: haveCards, run: lookAt },
    { name: 'Frame', help: 'show the whole shape in the view', shortcut: 'F', run: () => on.picture.value?.frame() },
    {
      name: 'Frame selection',
      help: 'show the selected elements in the view',
      shortcut: 'Shift+F',
      run: () => on.picture.value?.frame(true),
    },
    { name: 'Clear selection', help: 'select no element', shortcut: 'Escape', run: selection.clear },
    {
      name: 'Whole board',
      help: 'give the board the whole width, or bring the others back',
      shortcut: 'Shift+B',
      run: on.wholeBoard,
    },
    {
      name: 'Whole view',
      help: 'give the view all there is, or bring the others back',
      shortcut: 'Shift+V',
      run: on.wholeView,
    },
    {
      name: 'Lanes or cards',
      help: 'draw the graph as a row for each node, or as cards with wires',
      shortcut: 'Shift+L',
      run: () => on.board.value?.turnForm(),
    },
    { name: 'Board', help: 'put the board away, or bring it back', run: () => on.boardSplit.toggle() },
    {
      name: 'Ledger',
      help: 'put the drawer below the view away, or bring it back',
      run: () => on.drawerSplit.value.toggle(),
    },
    { name: 'Faces', help: 'draw faces, or not', run: () => (view.faces = !view.faces) },
    {
      name: 'Edges',
      help: 'draw edges, or not',
      shortcut: 'E',
      run: () => (view.edges = view.edges === 'off' ? 'all' : 'off'),
    },
    { name: 'Points', help: 'draw points, or not', run: () => (view.points = view.points ? '' : 'dots') },
    { name: 'Smooth shading', help: 'shade smoothly, or each face flat', run: () => (view.smooth = !view.smooth) },
    {
      name: 'Time',
      help: 'show the frames of the graph below the view, or not',
      shortcut: 'Shift+M',
      run: () => (time.shown.value = !time.visible.value),
    },
    {
      name: 'Play',
      help: 'play the frames, or stop',
      shortcut: 'M',
      run: () => {
        time.shown.value = true
        if (time.playing.value) time.stop()
        else time.play()
      },
    },
    {
      name: 'Set keys',
      help: 'let turned values and dragged handles set a key at the frame that is shown, or not',
      run: () => {
        time.shown.value = true
        time.armed.value = !time.armed.value
      },
    },
    { name: 'Save all frames', help: 'as meshes, pictures or a film', run: () => (time.saving.value = true) },
    {
      name: 'Curves',
      help: 'show the values with keys as curves in the drawer',
      run: () => (time.curves.value = !time.curves.value),
    },
    {
      name: 'Freeze',
      help: 'keep what is looked at as a shape of the project, to go on from by hand',
      run: () => void on.freeze(),
    },
    {
      name: 'Ghost',
      help: 'draw the selected card’s result as a faint wire',
      shortcut: 'H',
      enabled: haveCards,
      run: ghost,
    },
    ...PANELS.map((entry) => ({
      name: entry.title,
      help: entry.help,
      shortcut: entry.shortcut,
      run: () => inspect.toggle(entry.name),
    })),
    ...TOOLS.map((tool, at) => ({
      name: `Tool: ${tool.name}`,
      help: tool.help,
      shortcut: String(at + 1),
      run: () => (view.tool = tool.name),
    })),
    { name: 'Shortcuts', help: 'all shortcuts', shortcut: '?', run: () => (open.helping.value = true) },
    {
      name: 'Demos',
      help: 'a gallery of graphs to look at and take apart',
      run: () => (open.demos.value = true),
    },
    { name: 'Tour', help: 'the bench in one minute', run: () => (open.touring.value = true) },
    {
      name: 'Documentation',
      help: 'all operators, the language, formats, tutorials and more; F1 opens what the pointer is over',
      run: () => help.openPage('index.html'),
    },
    { name: 'Shapes', help: 'upload, use and delete meshes of this project', run: () => (open.shaping.value = true) },
    {
      name: 'Proof sheets',
      help: 'what the graph makes while its dials are turned: many variants side by side',
      shortcut: 'Shift+P',
      run: () => (proofs.open.value = true),
    },
    { name: 'Add dial', help: 'a value that formulas of any node can read', run: () => void on.dials.value?.add() },
    {
      name: 'Edit the text',
      help: 'open the text of the selected script card in the drawer',
      enabled: () => on.scriptCard.value !== null,
      run: () => (on.writing.value = on.scriptCard.value),
    },
    {
      name: 'Fold',
      help: 'make one card of the selected ones, that holds them',
      shortcut: 'G',
      enabled: haveCards,
      run: () => void on.board.value?.foldChosen(),
    },
    {
      name: 'Unfold',
      help: 'put the cards inside in place of the selected card',
      shortcut: 'Shift+G',
      enabled: () => nests() !== null,
      run: () => void changes.make('unfold', 'unfold', { node: nests() ?? '' }),
    },
    {
      name: 'Open',
      help: 'go into the graph that the selected card runs',
      shortcut: 'Enter',
      enabled: () => nests() !== null,
      run: () => void graph.enter(nests()!),
    },
    {
      name: 'Out',
      help: 'go out of this graph, to the one around it',
      shortcut: 'Shift+Enter',
      enabled: () => graph.path.value.length > 0,
      run: () => graph.leave(graph.path.value.length - 1),
    },
    {
      name: 'Linked copy',
      help: 'another card that runs the graph of the selected one: what is edited inside of one is edited in both',
      enabled: () => holds() !== null,
      run: () => void on.board.value?.linkCopy(holds()!),
    },
    {
      name: 'Publish',
      help: 'put the selected folded card into the catalogue',
      enabled: () => folded() !== null,
      run: () => (publishing.value = folded()),
    },
    {
      name: 'Catalogue',
      help: 'all operators, built in and published, and the depot',
      shortcut: 'C',
      run: () => (browsing.value = true),
    },
    {
      name: 'Search in the graph',
      help: 'find cards by title, parameter or attribute, and jump points',
      shortcut: 'Ctrl+F',
      run: () => on.board.value?.search(),
    },
    {
      name: 'Jump point',
      help: 'name the selected card, to jump to it',
      shortcut: 'J',
      enabled: haveCards,
      run: () => void on.board.value?.nameJump(),
    },
    {
      name: 'What goes through',
      help: 'counts and attributes of what comes out of the selected card',
      shortcut: 'I',
      enabled: haveCards,
      run: () => on.board.value?.ask(),
    },
    {
      name: 'Evaluate on release',
      help: 'for heavy graphs: show the result when a slider is let go, not while it is dragged',
      run: () => (evaluation.onRelease.value = !evaluation.onRelease.value),
    },
    {
      name: 'Frame cards',
      help: 'put a frame with a title around the selected cards',
      enabled: haveCards,
      run: () => on.board.value?.frameChosen(),
    },
    {
      name: 'Select all cards',
      help: 'select every card of this graph',
      shortcut: 'Ctrl+A',
      run: () => on.board.value?.select(Object.keys(graph.document.value.nodes)),
    },
    { name: 'Tidy board', help: 'lay all cards out again', enabled: asCards, run: () => on.board.value?.tidy() },
    {
      name: 'All cards',
      help: 'show all cards on the board',
      enabled: asCards,
      run: () => void on.board.value?.showAll(),
    },
    { name: 'Day or night', help: 'change the theme', run: theme.toggle },
    { name: 'Stop', help: 'stop the evaluation', enabled: () => evaluation.running.value, run: evaluation.stop },
  ]
}
