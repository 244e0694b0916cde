<script setup lang="ts">
/** The working screen: board, view and ledger, which always show the same moment. */
import { useEventListener } from '@vueuse/core'
import { ElMessage, ElMessageBox } from 'element-plus'
import { api } from '../api/client'
import { computed, nextTick, onMounted, provide, ref, watch, watchEffect } from 'vue'
import Board from '../board/Board.vue'
import { splitFeed, addNode, duplicateNodes, removeNodes } from '../model/document'
import { addCardKey, publishKey, scriptKey, shapesKey } from '../stores/injectionKeys'
import { tell, useChanges } from '../stores/useChanges'
import { useGraph } from '../stores/useGraph'
import CatalogueDialog from '../catalogue/CatalogueDialog.vue'
import ImportDialog from '../catalogue/ImportDialog.vue'
import PublishDialog from '../catalogue/PublishDialog.vue'
import { useCatalogue } from '../stores/useCatalogue'
import { usePackages } from '../stores/usePackages'
import Ledger from '../ledger/Ledger.vue'
import ScriptDrawer from '../script/ScriptDrawer.vue'
import { useTheme } from '../stores/useTheme'
import { useInspection } from '../stores/useInspection'
import { useView } from '../stores/useView'
import { queriesFor } from '../view/data/resultQueries'
import View from '../view/View.vue'
import { isWriting, shortcutOf, type Action } from '../model/actions'
import { isFirstVisit } from './firstVisit'
import Dials from '../dials/Dials.vue'
import Divider from './Divider.vue'
import CommandPalette from './CommandPalette.vue'
import ShapesDialog from './ShapesDialog.vue'
import ShortcutsDialog from './ShortcutsDialog.vue'
import Tour from './Tour.vue'
import TopBar from './TopBar.vue'
import { useEvaluation } from '../stores/useEvaluation'
import { useProject } from '../stores/useProject'
import { useSelection } from '../stores/useSelection'
import { useSplit } from './useSplit'

const graph = useGraph()
const project = useProject()
const evaluation = useEvaluation()
const selection = useSelection()
const { operator, operatorOf, load } = useCatalogue()
const theme = useTheme()
const view = useView()
const inspect = useInspection()
const board = ref<InstanceType<typeof Board>>()
const picture = ref<InstanceType<typeof View>>()
const dials = ref<InstanceType<typeof Dials>>()
const finding = ref(false)
const shaping = ref(false)
const dropping = ref(false)
const ready = ref(false)
const trouble = ref('')
const boardSplit = useSplit('board width', 496, 260, () => window.innerWidth - 360, 'x', 1)
const ledgerSplit = useSplit('ledger height', 226, 34, () => window.innerHeight - 240, 'y', -1)
const scriptSplit = useSplit('script height', 320, 34, () => window.innerHeight - 240, 'y', -1)
provide(shapesKey, project.shapeNames)
provide(addCardKey, (name, parameters) => void add(name, parameters))

const chosenCards = computed(() => board.value?.selected ?? [])

/** The script whose text is in the drawer, instead of the ledger. */
const writing = ref<string | null>(null)
provide(scriptKey, (node) => (writing.value = node))
const written = computed(() =>
  writing.value && graph.document.value.nodes[writing.value]?.operator === 'script' ? writing.value : null,
)
const drawerSplit = computed(() => (written.value ? scriptSplit : ledgerSplit))
/** A script card that is chosen, whose text could be shown. */
const scriptCard = computed(
  () => chosenCards.value.find((id) => graph.document.value.nodes[id]?.operator === 'script') ?? null,
)
watch(scriptCard, (id) => {
  if (id && writing.value) writing.value = id
})

/** The catalogue, what is being published, and a package that is being looked at. */
const { browsing, shownOperator, publishing, review, reviewFile, fetchPackage, published, imported } = usePackages()
provide(publishKey, (node) => (publishing.value = node))
const takePicture = () => picture.value?.picture() ?? Promise.resolve('')
const changes = useChanges()

/** The card that a new one is added after. */
const after = computed(() => chosenCards.value[0] ?? graph.document.value.looking_at ?? null)
const afterTitle = computed(() => {
  const node = after.value ? graph.document.value.nodes[splitFeed(after.value).from] : undefined
  return node ? node.title || operatorOf(node)?.label || after.value! : ''
})

watchEffect(() => (evaluation.queries.value = queriesFor(view, selection.kind.value)))

/** Another graph has other attributes: a colour chosen for the last one is let go. */
watch(
  () => graph.state.value?.id,
  () => Object.assign(view, { color: null, chosen: false, range: null, labels: '', ghosts: [], flat: false }),
)

async function add(name: string, parameters: Record<string, unknown> = {}) {
  const declared = operator(name)
  if (graph.fixed.value)
    return tell('A published operator never changes. Unfold it, on the board around it, to work on a copy.')
  if (!declared) return
  board.value?.follow()
  let id = ''
  graph.edit(`add ${declared.label}`, (next) => {
    id = addNode(next, declared, after.value)
    next.nodes[id]!.parameters = parameters
  })
  await nextTick()
  board.value?.select([id])
}

async function upload(files: FileList | File[]) {
  for (const file of files) {
    if (/\.zip$/i.test(file.name)) {
      await reviewFile(file)
      continue
    }
    const busy = ElMessage({ message: `Reading ${file.name} …`, duration: 0 })
    try {
      const made = await project.upload(file)
      shaping.value = false
      await add('project_shape', { shape: made.name })
      setTimeout(() => picture.value?.frame(), 900)
      ElMessage({ type: 'success', message: `${file.name} is in the project as ‘${made.name}’.` })
    } catch (error) {
      ElMessage({
        type: 'error',
        message: `${file.name}: ${error instanceof Error ? error.message : error}`,
        duration: 8000,
        showClose: true,
      })
    } finally {
      busy.close()
    }
  }
}

function onCards(
  label: string,
  change: (next: Parameters<Parameters<typeof graph.edit>[1]>[0], ids: string[]) => void,
) {
  const ids = chosenCards.value
  if (ids.length) graph.edit(label, (next) => change(next, ids))
}

function remove() {
  if (board.value?.cutWire()) return
  onCards('remove cards', (next, ids) => removeNodes(next, ids))
}

function duplicate() {
  let copies: string[] = []
  onCards('duplicate cards', (next, ids) => (copies = duplicateNodes(next, ids)))
  if (copies.length) void nextTick(() => board.value?.select(copies))
}

function skip() {
  onCards('skip cards', (next, ids) => {
    for (const id of ids) next.nodes[id]!.skip = !next.nodes[id]!.skip
  })
}

function lookAt() {
  onCards('look at a card', (next, ids) => (next.looking_at = ids[0]))
}

const helping = ref(false)
const touring = ref(false)

function ghost() {
  const [id] = chosenCards.value
  if (id) view.ghosts = view.ghosts.includes(id) ? view.ghosts.filter((one) => one !== id) : [...view.ghosts, id]
}

/** Keep what is looked at as a shape of the project; the graph stays as it is. */
async function freeze() {
  const node = evaluation.shownNode.value
  const id = graph.state.value?.id
  if (!node || !id) return tell('There is no result to freeze.')
  const answer = await ElMessageBox.prompt(
    'The shape’s name. It keeps all attributes; the graph stays as it is.',
    'Freeze',
    {
      inputValue: afterTitle.value,
      inputPattern: /\S/,
      inputErrorMessage: 'Give it a name.',
      confirmButtonText: 'Freeze',
      cancelButtonText: 'Cancel',
    },
  ).catch(() => null)
  const name = ((answer as { value?: string } | null)?.value ?? '').trim()
  if (!name) return
  try {
    const made = await api.freeze(id, node, name, graph.basis())
    await project.reloadShapes()
    ElMessage({ type: 'success', message: `It is in the project as ‘${made.name}’.` })
  } catch (error) {
    tell(error)
  }
}

const haveCards = () => chosenCards.value.length > 0
/** The one selected card, if it runs a graph; and if that can be published. */
function nests(): string | null {
  const [id, more] = chosenCards.value
  const node = id && !more ? graph.document.value.nodes[id] : undefined
  return node && (node.graph || node.operator.includes('@')) ? id! : null
}
const folded = () => (nests() && graph.document.value.nodes[nests()!]!.operator === 'folded' ? nests() : null)

function onClipboard(event: ClipboardEvent) {
  if (isWriting(event.target) || window.getSelection()?.toString()) return
  if (event.type === 'paste') {
    const text = event.clipboardData?.getData('text') ?? ''
    if (text.trim()) void board.value?.pasteText(text)
  } else if (haveCards()) {
    event.clipboardData?.setData('text/plain', board.value?.copy() ?? '')
    if (event.type === 'cut') onCards('cut cards', (next, ids) => removeNodes(next, ids))
  } else return
  event.preventDefault()
}
for (const kind of ['copy', 'cut', 'paste'] as const) useEventListener(document, kind, onClipboard)
const actions: Action[] = [
  { name: 'Find', help: 'search operators and actions', shortcut: '/', run: () => (finding.value = true) },
  {
    name: 'Undo',
    help: 'take the last edit back',
    shortcut: 'Ctrl+Z',
    enabled: () => graph.undoLabel.value !== null,
    run: graph.undo,
  },
  {
    name: 'Redo',
    help: 'do the edit again that was taken back',
    shortcut: 'Ctrl+Shift+Z',
    enabled: () => graph.redoLabel.value !== null,
    run: graph.redo,
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
  { name: 'Frame', help: 'show the whole shape in the view', shortcut: 'F', run: () => picture.value?.frame() },
  {
    name: 'Frame selection',
    help: 'show the selected elements in the view',
    shortcut: 'Shift+F',
    run: () => picture.value?.frame(true),
  },
  { name: 'Clear selection', help: 'select no element', shortcut: 'Escape', run: selection.clear },
  { name: 'Board', help: 'put the board away, or bring it back', run: () => boardSplit.toggle() },
  {
    name: 'Ledger',
    help: 'put the drawer below the view away, or bring it back',
    run: () => drawerSplit.value.toggle(),
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
    name: 'Freeze',
    help: 'keep what is looked at as a shape of the project, to go on from by hand',
    run: () => void freeze(),
  },
  {
    name: 'Ghost',
    help: 'draw the selected card’s result as a faint wire',
    shortcut: 'H',
    enabled: haveCards,
    run: ghost,
  },
  {
    name: 'Checks',
    help: 'what is wrong with what is looked at, and where',
    shortcut: 'Shift+C',
    run: () => inspect.toggle('checks'),
  },
  {
    name: 'Trace',
    help: 'which card made the picked element, and from what',
    shortcut: 'T',
    run: () => inspect.toggle('trace'),
  },
  {
    name: 'Compare',
    help: 'hold what is looked at against another card’s result',
    run: () => inspect.toggle('compare'),
  },
  {
    name: 'Box select',
    help: 'pick elements with a box',
    shortcut: 'B',
    run: () => (view.tool = view.tool === 'box' ? 'click' : 'box'),
  },
  {
    name: 'Lasso select',
    help: 'pick elements by drawing around them',
    run: () => (view.tool = view.tool === 'lasso' ? 'click' : 'lasso'),
  },
  { name: 'Shortcuts', help: 'all shortcuts', shortcut: '?', run: () => (helping.value = true) },
  { name: 'Tour', help: 'the bench in one minute', run: () => (touring.value = true) },
  { name: 'Shapes', help: 'upload, use and delete meshes of this project', run: () => (shaping.value = true) },
  { name: 'Add dial', help: 'a value that formulas of any node can read', run: () => void dials.value?.add() },
  {
    name: 'Edit the text',
    help: 'open the text of the selected script card in the drawer',
    enabled: () => scriptCard.value !== null,
    run: () => (writing.value = scriptCard.value),
  },
  {
    name: 'Fold',
    help: 'make one card of the selected ones, that holds them',
    shortcut: 'G',
    enabled: haveCards,
    run: () => void board.value?.foldChosen(),
  },
  {
    name: 'Unfold',
    help: 'put the cards inside in place of the selected card',
    shortcut: 'Shift+G',
    enabled: () => nests() !== null,
    run: () => void changes.make('unfold', 'unfold', { node: nests() }),
  },
  {
    name: 'Open',
    help: 'go into the graph that the selected card runs',
    shortcut: 'O',
    enabled: () => nests() !== null,
    run: () => void graph.enter(nests()!),
  },
  {
    name: 'Out',
    help: 'go out of this graph, to the one around it',
    shortcut: 'U',
    enabled: () => graph.path.value.length > 0,
    run: () => graph.leave(graph.path.value.length - 1),
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
    run: () => board.value?.search(),
  },
  {
    name: 'Jump point',
    help: 'name the selected card, to jump to it',
    shortcut: 'J',
    enabled: haveCards,
    run: () => void board.value?.nameJump(),
  },
  {
    name: 'What goes through',
    help: 'counts and attributes of what comes out of the selected card',
    shortcut: 'I',
    enabled: haveCards,
    run: () => board.value?.ask(),
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
    run: () => board.value?.frameChosen(),
  },
  {
    name: 'Select all cards',
    help: 'select every card of this graph',
    shortcut: 'Ctrl+A',
    run: () => board.value?.select(Object.keys(graph.document.value.nodes)),
  },
  { name: 'Tidy board', help: 'lay all cards out again', run: () => board.value?.tidy() },
  { name: 'All cards', help: 'show all cards on the board', run: () => board.value?.fit() },
  { name: 'Day or night', help: 'change the theme', run: theme.toggle },
  { name: 'Stop', help: 'stop the evaluation', enabled: () => evaluation.running.value, run: evaluation.stop },
]

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (finding.value || isWriting(event.target) || document.querySelector('.el-overlay:not([style*="display: none"])'))
    return
  const pressed = shortcutOf(event)
  const alias = { Backspace: 'Delete', 'Ctrl+Y': 'Ctrl+Shift+Z' }[pressed] ?? pressed
  const action = actions.find((entry) => entry.shortcut === alias)
  if (!action || action.enabled?.() === false) return
  event.preventDefault()
  action.run()
})
useEventListener(window, 'beforeunload', (event) => {
  if (graph.hasUnsaved()) event.preventDefault()
})
useEventListener(window, 'dragover', (event: DragEvent) => {
  if (!event.dataTransfer?.types.includes('Files')) return
  event.preventDefault()
  dropping.value = true
})
useEventListener(window, 'dragleave', (event: DragEvent) => {
  if (!event.relatedTarget) dropping.value = false
})
useEventListener(window, 'drop', (event: DragEvent) => {
  dropping.value = false
  if (!event.dataTransfer?.files.length) return
  event.preventDefault()
  void upload(event.dataTransfer.files)
})

onMounted(async () => {
  try {
    await Promise.all([load(), theme.load(), project.start()])
    evaluation.follow()
    ready.value = true
    touring.value = isFirstVisit()
  } catch (error) {
    trouble.value = error instanceof Error ? error.message : String(error)
  }
})
function useShape(name: string) {
  shaping.value = false
  void add('project_shape', { shape: name })
}
</script>

<template>
  <div class="bench" :data-ready="ready" :aria-busy="evaluation.running.value">
    <TopBar @find="finding = true" @shapes="shaping = true" @catalogue="browsing = true" />
    <p v-if="trouble" class="down" role="alert">
      {{ trouble }} Start it with <code>make start</code> and load this page again.
    </p>
    <main v-else :style="{ gridTemplateColumns: `${boardSplit.size.value}px 6px minmax(0, 1fr)` }">
      <div class="left"><Dials ref="dials" /><Board ref="board" class="grow" /></div>
      <Divider :split="boardSplit" label="Width of the board" what="the board" test="board" />
      <div class="right" :style="{ gridTemplateRows: `minmax(0, 1fr) 6px ${drawerSplit.size.value}px` }">
        <View ref="picture" />
        <Divider
          :split="drawerSplit"
          label="Height of the drawer"
          :what="written ? 'the script' : 'the ledger'"
          test="drawer"
          flat
        />
        <ScriptDrawer v-if="written" :key="written" :node="written" @close="writing = null" />
        <Ledger v-else :script="scriptCard" @script="writing = $event" />
      </div>
    </main>
    <CommandPalette :open="finding" :actions="actions" :after="afterTitle" @close="finding = false" @add="add" />
    <ShapesDialog :open="shaping" @close="shaping = false" @use="useShape" @upload="upload" />
    <CatalogueDialog
      :open="browsing"
      :first="shownOperator"
      @close="browsing = false"
      @add="((browsing = false), add($event))"
      @packages="reviewFile"
      @fetch="fetchPackage"
    />
    <PublishDialog
      v-if="publishing"
      :node="publishing"
      :picture="takePicture"
      @close="publishing = null"
      @done="published"
    />
    <ImportDialog v-if="review" :review="review" @close="review = null" @done="imported" />
    <ShortcutsDialog :open="helping" :actions="actions" @close="helping = false" />
    <Tour v-model="touring" />
    <div v-if="dropping" class="dropping">
      Drop meshes (OBJ, PLY, STL) to add them to the project, or a package (ZIP) to import it
    </div>
  </div>
</template>

<style scoped>
.bench {
  position: fixed;
  inset: 0;
  overflow: clip;
  display: flex;
  flex-direction: column;
  height: 100%;
}
main {
  display: grid;
  flex: 1;
  min-height: 0;
}
.left,
.right {
  min-width: 0;
  min-height: 0;
}
.left,
.right > * {
  overflow: hidden;
}
.right > .divider {
  overflow: visible;
}
.left {
  display: flex;
  flex-direction: column;
}
.grow {
  flex: 1;
}
.right {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
}
.down {
  margin: 15vh auto;
  color: var(--bad);
}
.dropping {
  position: fixed;
  inset: 12px;
  z-index: 60;
  display: grid;
  place-items: center;
  border: 3px dashed var(--accent);
  border-radius: 12px;
  background: color-mix(in srgb, var(--paper) 80%, transparent);
  font-size: 20px;
  pointer-events: none;
}
</style>
