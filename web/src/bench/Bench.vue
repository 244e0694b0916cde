<script setup lang="ts">
/** The working screen: board, view and ledger, which always show the same moment. */
import { promiseTimeout, until, useEventListener } from '@vueuse/core'
import { ElDialog } from 'element-plus'
import { computed, defineAsyncComponent, nextTick, onMounted, provide, ref, watch } from 'vue'
import Board from '../board/Board.vue'
import type { BoardSurface } from '../board/surface'
import Dials from '../dials/Dials.vue'
import type { DialsSurface } from '../dials/surface'
import Ledger from '../ledger/Ledger.vue'
import { addNode, splitFeed } from '../model/document'
import { addCardKey, publishKey, shapesKey } from '../stores/injectionKeys'
import { useCatalogue } from '../stores/useCatalogue'
import { tell } from '../stores/useChanges'
import { useEvaluation } from '../stores/useEvaluation'
import { useGraph } from '../stores/useGraph'
import { useHelp } from '../stores/insight/useHelp'
import { useKeys } from '../stores/useKeys'
import { usePackages } from '../stores/usePackages'
import { useProject } from '../stores/useProject'
import { useTime } from '../stores/useTime'
import { useView } from '../stores/useView'
import type { ViewSurface } from '../view/surface'
import View from '../view/View.vue'
import CommandPalette from './CommandPalette.vue'
import Divider from './Divider.vue'
import { isFirstVisit } from './firstVisit'
import { breathe } from '../shared/breathe'
import { useHelpKey } from '../help/useHelpKey'
import { openedOnce } from './openedOnce'
import TopBar from './TopBar.vue'
import { useBenchActions } from './useBenchActions'
import { useFiles } from './useFiles'
import { useOpening } from './useOpening'
import { useScriptDrawer } from './useScriptDrawer'
import { useShortcuts } from './useShortcuts'
import { useSheets } from '../sheets/useSheets'
import { useSplit } from './useSplit'
import { useStages } from './useStages'

const graph = useGraph()
const project = useProject()
const evaluation = useEvaluation()
const { operator, operatorOf } = useCatalogue()
const { opened, trouble } = useOpening()
const view = useView()
const time = useTime()
const board = ref<BoardSurface>()
const picture = ref<ViewSurface>()
const dials = ref<DialsSurface>()
const help = useHelp()
const proofs = useSheets()
const finding = ref(false)
const helping = ref(false)
const touring = ref(false)
const browsingDemos = ref(false)
const downloading = ref(false)
/** Whether the board has the whole width. */
const boardAlone = ref(false)
const boardSplit = useSplit('board width', 496, 260, () => window.innerWidth - 360, 'x', 1)
/** Loaded when they are first opened. */
const CatalogueDialog = defineAsyncComponent(() => import('../catalogue/CatalogueDialog.vue'))
const DownloadDialog = defineAsyncComponent(() => import('./DownloadDialog.vue'))
const DemoGallery = defineAsyncComponent(() => import('./DemoGallery.vue'))
const ShapesDialog = defineAsyncComponent(() => import('./ShapesDialog.vue'))
const ReadDialog = defineAsyncComponent(() => import('./ReadDialog.vue'))
const ShortcutsDialog = defineAsyncComponent(() => import('./ShortcutsDialog.vue'))
const HelpDrawer = defineAsyncComponent(() => import('../help/HelpDrawer.vue'))
const Tour = defineAsyncComponent(() => import('./Tour.vue'))
const ImportDialog = defineAsyncComponent(() => import('../catalogue/ImportDialog.vue'))
const PublishDialog = defineAsyncComponent(() => import('../catalogue/PublishDialog.vue'))
const FramesDialog = defineAsyncComponent(() => import('../time/output/FramesDialog.vue'))
const SheetDialog = defineAsyncComponent(() => import('../sheets/SheetDialog.vue'))
const CurveDrawer = defineAsyncComponent(() => import('../time/CurveDrawer.vue'))
const ScriptDrawer = defineAsyncComponent(() => import('../script/ScriptDrawer.vue'))
provide(shapesKey, project.shapeNames)
provide(addCardKey, (name, parameters) => void add(name, parameters))

const chosenCards = computed(() => board.value?.selected ?? [])

const { writing, written, scriptCard, drawerSplit } = useScriptDrawer(chosenCards)

/** The catalogue, what is being published, and a package that is being looked at. */
const { browsing, shownOperator, publishing, review, reviewFile, fetchPackage, published, imported } = usePackages()
provide(publishKey, (node) => (publishing.value = node))
const takePicture = () => picture.value?.picture() ?? Promise.resolve('')

/** The card that a new one is added after. */
const after = computed(() => chosenCards.value[0] ?? graph.document.value.looking_at ?? null)
const afterTitle = computed(() => {
  const node = after.value ? graph.document.value.nodes[splitFeed(after.value).from] : undefined
  return node ? node.title || operatorOf(node)?.label || after.value! : ''
})

/** Another graph has other attributes: a colour chosen for the last one is let go. */
watch(
  () => graph.state.value?.id,
  () => Object.assign(view, { color: null, chosen: false, range: null, labels: '', ghosts: [], flat: false }),
)

async function add(name: string, parameters: Record<string, unknown> = {}) {
  const declared = operator(name)
  if (graph.fixed.value) return tell(graph.whyFixed())
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

const { shaping, dropping, arrivals, upload, read, use, freeze } = useFiles(add, () => picture.value?.frame())
/** What was opened stays mounted, so that it is found again as it was left. */
const wanted = {
  catalogue: openedOnce(() => browsing.value),
  shapes: openedOnce(() => shaping.value),
  shortcuts: openedOnce(() => helping.value),
  demos: openedOnce(() => browsingDemos.value),
  download: openedOnce(() => downloading.value),
  help: openedOnce(() => help.page.value !== ''),
  tour: openedOnce(() => touring.value),
  sheets: openedOnce(() => proofs.open.value),
}
const columns = computed(() => (boardAlone.value ? 'minmax(0, 1fr)' : `${boardSplit.size.value}px 6px minmax(0, 1fr)`))
/** The board alone, or beside the others again. */
function wholeBoard() {
  boardAlone.value = !boardAlone.value
  if (boardAlone.value) boardSplit.closed.value = false
}
/** The view alone, or with the board and the drawer again. */
function wholeView() {
  const away = !(boardSplit.closed.value && drawerSplit.value.closed.value)
  boardAlone.value = false
  boardSplit.closed.value = drawerSplit.value.closed.value = away
}

const surfaces = { board, picture, dials, wholeBoard, wholeView, boardSplit, drawerSplit, writing, scriptCard }
const usualActions = useBenchActions(
  { ...surfaces, freeze: () => freeze(afterTitle.value) },
  { finding, helping, touring, shaping, demos: browsingDemos },
)
const { changed: keys, usual, actions } = useKeys()
usual.value = usualActions
useShortcuts(
  () => actions.value,
  () => finding.value,
)
useHelpKey()
useEventListener(window, 'beforeunload', (event) => {
  if (graph.hasUnsaved()) event.preventDefault()
})

/** Milliseconds that the other parts leave to the first picture before they come all the same, unless it takes longer. */
const PATIENCE = 1500
const pictured = ref(false)
/** The view comes first, then what is below it, then the board. */
const stage = useStages(2, (next) =>
  next === 1
    ? Promise.race([
        until(pictured).toBe(true).then(breathe),
        until(() => evaluation.slow.value || (!evaluation.running.value && !evaluation.looks.value)).toBe(true),
        promiseTimeout(PATIENCE),
      ])
    : breathe(),
)
onMounted(() => (touring.value = opened.value && isFirstVisit()))
</script>

<template>
  <div class="bench" :data-ready="opened && (stage === 2 || !!trouble)" :aria-busy="evaluation.running.value">
    <TopBar
      @find="finding = true"
      @shapes="shaping = true"
      @catalogue="browsing = true"
      @demos="browsingDemos = true"
      @download="downloading = true"
    />
    <p v-if="trouble" class="down" role="alert">
      {{ trouble }} Start it with <code>make start</code> and load this page again.
    </p>
    <main v-else :class="{ alone: boardAlone }" :style="{ gridTemplateColumns: columns }">
      <div class="left">
        <template v-if="stage > 1"><Dials ref="dials" /><Board ref="board" class="grow" /></template>
      </div>
      <Divider :split="boardSplit" label="Width of the board" what="the board" test="board" />
      <div class="right" :style="{ gridTemplateRows: `minmax(0, 1fr) 6px ${drawerSplit.size.value}px` }">
        <View ref="picture" :tooled="stage > 0" @drawn="pictured = true"
          ><template v-if="!graph.lookOnly.value && !graph.path.value.length" #empty
            ><p>Or begin with one of these:</p>
            <DemoGallery /></template
        ></View>
        <Divider
          :split="drawerSplit"
          label="Height of the drawer"
          :what="time.curves.value ? 'the curves' : written ? 'the script' : 'the ledger'"
          test="drawer"
          flat
        />
        <section v-if="stage < 1" />
        <CurveDrawer v-else-if="time.curves.value" />
        <ScriptDrawer v-else-if="written" :key="written" :node="written" @close="writing = null" />
        <Ledger v-else :script="scriptCard" @script="writing = $event" />
      </div>
    </main>
    <CommandPalette :open="finding" :actions="actions" :after="afterTitle" @close="finding = false" @add="add" />
    <ShapesDialog v-if="wanted.shapes.value" :open="shaping" @close="shaping = false" @use="use" @upload="upload" />
    <ReadDialog v-if="arrivals.length" :arrivals="arrivals" @close="arrivals = []" @read="read" />
    <CatalogueDialog
      v-if="wanted.catalogue.value"
      :open="browsing"
      :first="shownOperator"
      @close="((browsing = false), (shownOperator = ''))"
      @add="((browsing = false), (shownOperator = ''), add($event))"
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
    <DownloadDialog v-if="wanted.download.value" :open="downloading" @close="downloading = false" />
    <ImportDialog v-if="review" :review="review" @close="review = null" @done="imported" />
    <ElDialog v-if="wanted.demos.value" v-model="browsingDemos" title="Demos" width="min(960px, 94vw)" top="6vh">
      <DemoGallery @taken="browsingDemos = false" />
    </ElDialog>
    <ShortcutsDialog
      v-if="wanted.shortcuts.value"
      :open="helping"
      :actions="actions"
      :usual="usualActions"
      :keys="keys"
      @keys="keys = $event"
      @close="helping = false"
    />
    <FramesDialog v-if="time.saving.value" :view="picture" @close="time.saving.value = false" />
    <SheetDialog v-if="wanted.sheets.value" />
    <HelpDrawer v-if="wanted.help.value" />
    <Tour v-if="wanted.tour.value" v-model="touring" />
    <div v-if="dropping" class="dropping">
      Drop meshes, scans, drawings and tables to add them to the project, or a package (ZIP) to import it
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
.alone > :not(.left) {
  display: none;
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
