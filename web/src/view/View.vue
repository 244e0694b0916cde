<script setup lang="ts">
/** The 3D picture of the node that is looked at. */
import Slider from '../shared/controls/Slider.vue'
import { until, useResizeObserver } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { splitFeed } from '../model/document'
import { useCatalogue } from '../stores/useCatalogue'
import { useEvaluation } from '../stores/useEvaluation'
import { useGraph } from '../stores/useGraph'
import { useInspection } from '../stores/useInspection'
import { useLive } from '../stores/insight/useLive'
import { useSelection } from '../stores/useSelection'
import { useTime } from '../stores/useTime'
import { useTheme } from '../stores/useTheme'
import { useView } from '../stores/useView'
import TimeStrip from '../time/TimeStrip.vue'
import AxesMarker from './camera/AxesMarker.vue'
import type { Standpoint } from './camera/cameras'
import DividingLine from './camera/DividingLine.vue'
import { spanOf, type Panes } from './camera/panes'
import { metresPerPixel } from './camera/scaleBar'
import ScaleBar from './camera/ScaleBar.vue'
import EdgeLegend from './color/EdgeLegend.vue'
import Legend from './color/Legend.vue'
import { useRenderData } from './data/useRenderData'
import Inspector from './inspect/Inspector.vue'
import { centers } from './picking/within'
import type { Quality } from './rendering/qualities'
import { paletteOf } from './rendering/palette'
import { Scene } from './rendering/scene'
import DragBar from './tools/DragBar.vue'
import { useHandle } from './tools/useHandle'
import { useSnapshot } from './tools/useSnapshot'
import { useTools } from './tools/useTools'
import Labels from './ui/Labels.vue'
import Rail from './ui/Rail.vue'
import StageNotes from './ui/StageNotes.vue'
import ViewBar from './ui/ViewBar.vue'

/** `tooled`: whether the bars are there, which may come after the first picture; their room is kept. */
const { tooled = true } = defineProps<{ tooled?: boolean }>()
const emit = defineEmits<{ drawn: [] }>()
const view = useView()
const time = useTime()
const { shownNode, reports } = useEvaluation()
const { document: graph } = useGraph()
const selection = useSelection()
const { theme } = useTheme()
const { operatorOf } = useCatalogue()
const { panel, places: traced, other } = useInspection()
const { paths } = useLive()

const canvas = ref<HTMLCanvasElement>()
const box = ref<HTMLElement>()
const turn = ref([0, 0, 0, 1])
const moment = ref(0)
const area = ref({ width: 1, height: 1 })
const parallel = ref(false)
const ready = ref(false)
const perPixel = ref(0.001)
/** Radians that an arrow key turns the picture. */
const TURN = 0.12
let scene: Scene | null = null
let before: Standpoint | null = null

const { drawn, mesh, summary, legend, trouble, loading, isDouble, update } = useRenderData(() => scene)
const handles = useHandle(
  () => scene?.handle,
  () =>
    Math.hypot(...[0, 1, 2].map((axis) => (mesh.value?.bounds[1][axis] ?? 1) - (mesh.value?.bounds[0][axis] ?? 0))) ||
    1,
)
const tools = useTools({ scene: () => scene, canvas, area, handles })
const tool = tools.current
/** Ways that are drawn over the picture: of the tool in use, of a trace, and of what a text asked. */
const marks = computed(() => [tool.value.marks?.value.length ? tool.value.marks.value : traced.value, ...paths.value])
const { save, picture, still } = useSnapshot(
  () => canvas.value,
  () => scene,
)
const panes = computed<Panes>(() => ({ form: isDouble.value ? (view.form as Panes['form']) : 'one', line: view.line }))
/** The part of the stage where the own picture is, in pixels: labels lie over it. */
const span = computed(() => {
  const { left, width } = spanOf(panes.value)
  return { left: left * area.value.width, width: width * area.value.width }
})
const middles = computed(() =>
  mesh.value && view.labels ? centers(mesh.value, selection.kind.value) : new Float32Array(0),
)
/** Which element each label is of: a layout by uv draws points and edges more than once. */
const numbers = computed(() => mesh.value?.own?.[selection.kind.value as 'point' | 'edge'] ?? null)

function name(id: string | null | undefined): string {
  const node = id ? graph.value.nodes[splitFeed(id).from] : undefined
  return node?.title || operatorOf(node)?.label || id || ''
}

/** Told once the first result is in the scene and its picture has been drawn. */
watch(drawn, () => requestAnimationFrame(() => emit('drawn')), { once: true })
watch(marks, (shown) => scene?.setMarks(shown))
watch(() => [view.cut, view.cutAt, mesh.value], cutOpen)
watch(() => [view.faces, view.edges, view.points, view.smooth], showParts)
watch([selection.chosen, selection.kind], () => scene?.setChosen(selection.kind.value, selection.chosen.value))
watch(isDouble, (two) => two || scene?.showOther(null, { form: 'one', line: 0.5 }))
watch(theme, () => nextTick(paint))
watch(() => [view.quality, view.ground, view.veil], light)
watch(
  () => view.flat,
  (flat) => {
    if (flat) before = scene?.standpoint('') ?? null
    if (flat) scene?.lookAlong('front')
    else if (before) goTo(before)
  },
)

function showParts() {
  scene?.setShown({ faces: view.faces, wire: view.edges === 'all', points: view.points !== '', smooth: view.smooth })
}

function cutOpen() {
  const axis = view.cut ? 'xyz'.indexOf(view.cut) : -1
  const [low, high] = mesh.value?.bounds ?? [
    [0, 0, 0],
    [1, 1, 1],
  ]
  scene?.setCut(view.cut || null, axis < 0 ? 0 : low[axis]! + (high[axis]! - low[axis]!) * view.cutAt)
}

function frame(chosen = false) {
  const part = chosen ? scene?.boundsOf(selection.kind.value) : null
  const bounds = part ?? mesh.value?.bounds
  if (bounds) scene?.frame(bounds)
}

function toggleParallel() {
  parallel.value = !parallel.value
  scene?.setParallel(parallel.value)
}

function goTo(kept: Standpoint) {
  scene?.goTo(kept)
  parallel.value = kept.parallel
}

/** How much this machine manages, and what is drawn of it. */
const managed = ref<Quality>('fast')
function light() {
  managed.value = scene?.measured.now ?? 'fast'
  scene?.setLook(view.quality || managed.value, view.ground, view.veil)
}

/** Arrows turn, with Shift they shift; plus and minus come nearer and go farther off. */
function key(event: KeyboardEvent) {
  const arrow = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key]
  const [x = 0, y = 0] = arrow ?? []
  if (arrow && event.shiftKey) scene?.step({ shift: [x * 0.04, y * 0.04] })
  else if (arrow) scene?.step({ turn: [x * TURN, y * TURN] })
  else if (event.key === '+' || event.key === '=') scene?.step({ nearer: 1.15 })
  else if (event.key === '-') scene?.step({ nearer: 1 / 1.15 })
  else return
  event.preventDefault()
  event.stopPropagation()
}

function paint() {
  scene?.setPalette(paletteOf(theme.value))
}

onMounted(() => {
  scene = new Scene(canvas.value!)
  scene.onDraw = () => {
    turn.value = scene!.camera.quaternion.toArray()
    perPixel.value = metresPerPixel(
      scene!.camera.position.distanceTo(scene!.controls.target),
      scene!.camera.fov,
      area.value.height,
    )
    if (view.labels) moment.value += 1
  }
  ready.value = true
  tools.settle()
  scene.resize(box.value!.clientWidth, box.value!.clientHeight)
  showParts()
  paint()
  scene.onSlow = light
  light()
  void update()
})
useResizeObserver(box, ([entry]) => {
  if (!entry!.contentRect.width || !entry!.contentRect.height) return
  area.value = { width: box.value!.clientWidth, height: box.value!.clientHeight }
  scene?.resize(area.value.width, area.value.height)
})
onBeforeUnmount(() => scene?.dispose())
/** Go to a frame, and take its picture when it is there. */
async function pictureAt(frame: number, wish: Parameters<typeof still>[0]): Promise<Blob> {
  time.go(frame)
  await until(() => !time.behind.value && !time.waiting.value).toBe(true)
  await nextTick()
  await until(loading).toBe(0)
  const report = reports.value[splitFeed(graph.value.looking_at ?? '').from]
  const said = trouble.value || (report?.state === 'done' ? '' : (report?.error?.message ?? 'nothing is looked at'))
  if (said) throw new Error(`At frame ${frame}: ${said}`)
  return still(wish)
}
defineExpose({ frame, picture, pictureAt })
</script>

<template>
  <section class="view" aria-label="View" data-help="looking.html#in-the-view">
    <ViewBar v-if="tooled" :summary="summary" />
    <div v-else class="bar-room" />
    <div class="work">
      <div v-if="!tooled" class="rail-room" />
      <Rail
        v-else
        :placed="!!mesh?.instances.length"
        :tools="tools.offered.value"
        :parallel="parallel"
        :managed="managed"
        :keep="(kept) => scene?.standpoint(kept) ?? null"
        @along="scene?.lookAlong($event)"
        @parallel="toggleParallel"
        @go="goTo"
        @frame="frame"
        @still="save(name(shownNode) || 'view', $event)"
      />
      <div ref="box" class="stage" :aria-busy="loading > 0">
        <canvas
          ref="canvas"
          tabindex="0"
          :style="{ cursor: tool.cursor }"
          aria-label="Mesh; drag to turn, scroll to zoom, click to select"
          data-test="canvas"
          @pointerdown="tools.press"
          @pointermove="tools.move"
          @pointerup="tools.release"
          @keydown="key"
        />
        <StageNotes :trouble="trouble" :name="name"><slot name="empty" /></StageNotes>
        <DividingLine v-if="isDouble" :mine="name(shownNode)" :other="other" :name="name" />
        <component :is="tool.overlay" v-if="tool.overlay" />
        <Labels
          v-if="ready && view.labels && middles.length"
          :middles="middles"
          :numbers="numbers"
          :values="view.labels === 'index' ? null : (drawn?.labels?.values ?? null)"
          :size="drawn?.labels?.size ?? 1"
          :camera="scene!.camera"
          :moment="moment"
          :width="span.width"
          :height="area.height"
          :style="{ left: `${span.left}px`, width: `${span.width}px` }"
        />
        <div class="bars">
          <component :is="tool.panel" v-if="tool.panel" />
          <div v-if="view.cut" class="bar floating" data-test="cut">
            section across {{ view.cut }}
            <Slider
              class="cut"
              :value="view.cutAt"
              :low="0"
              :high="1"
              :step="0.005"
              label="Where the section is"
              @turn="view.cutAt = $event"
            />
          </div>
          <DragBar
            v-if="handles.held.value && !view.flat && panes.form !== 'beside'"
            v-model:which="handles.which.value"
            v-model:snapping="handles.snapping.value"
            :targets="handles.targets.value"
            :held="handles.held.value"
          />
        </div>
        <div class="legends">
          <EdgeLegend v-if="drawn?.edges" :edges="drawn.edges" />
          <Legend v-if="legend" :legend="legend.legend" :kind="legend.kind" />
        </div>
        <ScaleBar v-if="mesh && !view.flat && ready" :per-pixel="perPixel" />
        <AxesMarker :turn="turn" />
      </div>
      <Inspector v-if="panel" @frame="frame(true)" />
    </div>
    <TimeStrip v-if="time.visible.value" />
  </section>
</template>

<style scoped>
.view {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
  height: 100%;
}
/* As large as the bars are in a window of 1280 x 800. */
.bar-room {
  height: 65px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
}
.rail-room {
  flex: none;
  width: 72px;
  border-right: 1px solid var(--line);
  background: var(--sheet);
}
.work {
  display: flex;
  flex: 1;
  min-height: 0;
}
.stage {
  position: relative;
  flex: 1;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
  background: linear-gradient(var(--backdrop-top), var(--backdrop-bottom));
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  touch-action: none;
}
.legends {
  position: absolute;
  left: 10px;
  bottom: 10px;
  display: flex;
  flex-direction: column;
  gap: 5px;
}
.bars {
  position: absolute;
  right: 84px;
  bottom: 10px;
  z-index: 3;
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  gap: 4px;
  max-width: calc(100% - 300px);
}
.cut {
  width: 120px;
}
.bars :deep(.bar) {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 2px 10px;
}
</style>
