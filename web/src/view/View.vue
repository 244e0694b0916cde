<script setup lang="ts">
/** The 3D picture of the node that is looked at. */
import { useResizeObserver } from '@vueuse/core'
import * as THREE from 'three'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { isError, type AttributeLook, type MeshLook, type NormalsLook, type Summary } from '../api/looks'
import { useEvaluation } from '../bench/useEvaluation'
import { useSelection } from '../bench/useSelection'
import { splitFeed } from '../board/document'
import { useGraph } from '../board/useGraph'
import { useCatalogue } from '../catalogue/useCatalogue'
import { useTheme } from '../shared/useTheme'
import { api } from '../api/client'
import type { Numbers } from '../api/buffers'
import { short } from '../shared/numbers'
import AxesMarker from './AxesMarker.vue'
import type { Standpoint } from './cameras'
import { colorize, isColor, type Legend as LegendData } from './colors'
import Drawing from './Drawing.vue'
import Inspector from './Inspector.vue'
import Labels from './Labels.vue'
import Legend from './Legend.vue'
import { fetchMesh, fetchValues, strokeLines, type MeshData } from './meshData'
import { measured, type Spot3 } from './measuring'
import Rail from './Rail.vue'
import { Scene } from './scene'
import { useHandle } from './useHandle'
import { usePaint } from './usePaint'
import { useInspect, type Difference } from './useInspect'
import { useView } from './useView'
import ViewBar from './ViewBar.vue'
import { centers, type Spot } from './within'

const view = useView()
const { looks, shownNode, reports, stale, running, slow, progress, failure, stop } = useEvaluation()
const { document: graph, state: graphState } = useGraph()
const selection = useSelection()
const { theme } = useTheme()
const { operatorOf } = useCatalogue()

const canvas = ref<HTMLCanvasElement>()
const box = ref<HTMLElement>()
const turn = ref([0, 0, 0, 1])
const mesh = shallowRef<MeshData | null>(null)
const summary = shallowRef<Summary | null>(null)
const legend = shallowRef<LegendData | null>(null)
const trouble = ref('')
let scene: Scene | null = null
let framed = ''
let newest = 0
let ghostMoment = 0
const { panel, difference, against } = useInspect()
const labelValues = shallowRef<Numbers | null>(null)
const labelSize = ref(1)
const comparing = ref(false)
const moment = ref(0)
const spots = shallowRef<Spot3[]>([])
const area = ref({ width: 1, height: 1 })
const parallel = ref(false)
const ready = ref(false)
const middles = computed(() => (mesh.value && view.labels ? centers(mesh.value, selection.kind.value) : new Float32Array(0)))
const paintTool = usePaint((event) => scene?.placeAt(...spotOf(event)) ?? null)
watch(paintTool.card, (card) => (view.tool = card ? 'paint' : view.tool === 'paint' ? 'click' : view.tool))
const { places, shown: held, which, snapping } = useHandle(() => scene?.handle)

function name(id: string | null | undefined): string {
  const node = id ? graph.value.nodes[splitFeed(id).from] : undefined
  return node?.title || operatorOf(node)?.label || id || ''
}
const banner = computed(() => {
  const wanted = graph.value.looking_at
  if (wanted && stale.value) return `‘${name(wanted)}’ has an error; its last good result is shown.`
  if (!wanted || !shownNode.value || shownNode.value === wanted || reports.value[splitFeed(wanted).from]?.state === 'done') return ''
  return `‘${name(wanted)}’ has no result, so ‘${name(shownNode.value)}’ is shown.`
})
const isEmpty = computed(() => Object.keys(graph.value.nodes).length === 0)
const noResult = computed(() => !isEmpty.value && !shownNode.value && !running.value && !!reports.value && Object.keys(reports.value).length > 0)

watch(looks, update)
watch(() => [view.scale, view.range, view.strokeLength, difference.value, panel.value], update)
watch(() => [view.color?.kind, view.color?.name, view.color?.part].join(), () => (view.range = null)) // prettier-ignore
watch(() => [view.ghosts.join(), panel.value, against.value, looks.value?.key], () => void drawGhosts())
watch(() => view.tool, (tool) => {
  scene?.setTurning(tool === 'click' || tool === 'measure')
  if (tool !== 'measure') spots.value = []
}) // prettier-ignore
watch(spots, (now) => scene?.setMarks(now))
watch(() => [view.cut, view.cutAt, mesh.value], cutOpen)

function cutOpen() {
  const axis = view.cut ? 'xyz'.indexOf(view.cut) : -1
  const [low, high] = mesh.value?.bounds ?? [[0, 0, 0], [1, 1, 1]] // prettier-ignore
  scene?.setCut(view.cut || null, axis < 0 ? 0 : low[axis]! + (high[axis]! - low[axis]!) * view.cutAt)
}

/** How many looks are being turned into a picture. */
const loading = ref(0)
async function update() {
  loading.value += 1
  try {
    await take()
  } finally {
    loading.value -= 1
  }
}

/** Take the newest looks: shape, colour and normals together, so that they never belong to different moments. */
async function take() {
  const answer = looks.value
  const number = ++newest
  if (!answer) {
    mesh.value = null
    summary.value = null
    legend.value = null
    scene?.setTint(null)
    scene?.setMesh(null)
    return
  }
  const find = (what: string) => {
    const at = answer.wishes.findIndex((wish) => wish.what === what && !wish.label)
    return at < 0 ? null : answer.answers[at]!
  }
  const labels = answer.wishes.findIndex((wish) => wish.label)
  trouble.value = ''
  try {
    const meshLook = find('mesh') as unknown as MeshLook
    if (!meshLook || !('position' in meshLook)) return
    const color = find('attribute')
    const normals = find('normals') as unknown as NormalsLook | null
    const next = await fetchMesh(meshLook)
    let tint = null
    let explained: LegendData | null = null
    // What feeds a failed node may lack the colour; the colour box says so, which is enough.
    if (color && isError(color)) trouble.value = answer.node === graph.value.looking_at ? color.error.message : ''
    else if (color) {
      const about = color as unknown as AttributeLook
      const made = colorize(about, await fetchValues(about), view.color?.part ?? '', view.scale, view.range)
      tint = { kind: about.kind, colors: made.colors, depth: isColor(about) ? 0.55 : 0.28 }
      explained = made.legend
    }
    const size = Math.hypot(...[0, 1, 2].map((axis) => next.bounds[1][axis]! - next.bounds[0][axis]!))
    const ends = normals && 'begin' in normals ? await strokeLines(normals, size * view.strokeLength) : null
    const written = labels >= 0 && !isError(answer.answers[labels]) ? (answer.answers[labels] as unknown as AttributeLook) : null
    const texts = written ? await fetchValues(written) : null
    const compared = difference.value && panel.value === 'compare' ? await distanceTint(difference.value) : null
    if (compared) [tint, explained] = [compared.tint, compared.legend]
    if (number !== newest || !scene) return
    labelValues.value = texts
    labelSize.value = written?.values.shape[1] ?? 1
    comparing.value = compared !== null
    mesh.value = next
    summary.value = find('summary') as unknown as Summary
    showOwnColors()
    legend.value = explained
    scene.setTint(tint)
    scene.setMesh(next)
    scene.setNormals(ends)
    scene.setChosen(selection.kind.value, selection.chosen.value)
    const graphId = graphState.value?.id ?? ''
    if (framed !== graphId && (next.position.length || next.instances.length)) {
      framed = graphId
      scene.frame(next.bounds)
    }
  } catch (error) {
    trouble.value = error instanceof Error ? error.message : String(error)
  }
}

/** How far each point is from what is compared with, as colours. */
async function distanceTint(found: Difference) {
  const look = { name: 'distance', type: 'number', kind: 'point' as const, unit: 'm', values: found.distance, low: [0], high: [found.farthest] }
  const made = colorize(look, await fetchValues(look), '', view.scale, view.range)
  return { tint: { kind: look.kind, colors: made.colors, depth: 0.28 }, legend: made.legend }
}

/** Other results as faint wires: those of ghosted cards, and the one that is compared with. */
async function drawGhosts() {
  const id = graphState.value?.id
  const wanted = [...new Set([...view.ghosts, ...(panel.value === 'compare' && against.value ? [against.value] : [])])].filter((node) => node in graph.value.nodes)
  const asked = ++ghostMoment
  const meshes = await Promise.all(
    wanted.map(async (node) => {
      const look = (await api.looks(id!, node, [{ what: 'mesh' }], useGraph().basis()).catch(() => null))?.looks[0]
      return look && !isError(look) && 'position' in look ? fetchMesh(look as unknown as MeshLook) : null
    }),
  )
  if (asked === ghostMoment) scene?.setGhosts(meshes.filter((one) => one !== null), new THREE.Color(getComputedStyle(document.documentElement).getPropertyValue('--accent').trim()))
}

/** Until a colour is chosen, a mesh that has colours shows them. */
function showOwnColors() {
  if (view.chosen) return
  const kind = (['point', 'corner', 'face'] as const).find((on) => summary.value?.attributes[on].some(isColor))
  if (kind ? view.color?.kind !== kind : view.color) view.color = kind ? { kind, name: 'color', part: '' } : null
}

function frame(chosen = false) {
  const part = chosen ? scene?.boundsOf(selection.kind.value, selection.chosen.value) : null
  const bounds = part ?? mesh.value?.bounds
  if (bounds) scene?.frame(bounds)
}

let down: [number, number] = [0, 0]
function press(event: PointerEvent) {
  down = [event.clientX, event.clientY]
  if (view.tool === 'paint' && event.button === 0 && paintTool.begin(event)) canvas.value!.setPointerCapture(event.pointerId)
}

function spotOf(event: PointerEvent): [number, number] {
  const around = canvas.value!.getBoundingClientRect()
  return [((event.clientX - around.left) / around.width) * 2 - 1, 1 - ((event.clientY - around.top) / around.height) * 2]
}
function release(event: PointerEvent) {
  if (view.tool === 'paint') return paintTool.end()
  if (Math.hypot(event.clientX - down[0], event.clientY - down[1]) > 4 || event.button !== 0 || !canvas.value) return
  const hit = scene?.pick(...spotOf(event))
  const add = event.shiftKey || event.ctrlKey || event.metaKey
  if (scene?.handle.busy) return
  if (view.tool === 'measure') {
    if (hit) spots.value = [...(spots.value.length === 3 ? [] : spots.value), hit.place]
    return
  }
  const kind = selection.kind.value
  if (!hit) return add ? undefined : selection.clear()
  if (kind === 'face' || kind === 'point' || kind === 'corner' || kind === 'edge') selection.pick(hit[kind], add, 'view')
}

function drawn(outline: Spot[], add: boolean) {
  selection.choose(scene?.within(selection.kind.value, outline) ?? [], add)
}

/** Save what is seen as a PNG. */
async function still(backdrop: boolean) {
  const source = canvas.value!
  scene?.draw()
  await new Promise((wake) => requestAnimationFrame(() => requestAnimationFrame(wake)))
  const made = document.createElement('canvas')
  made.width = source.width
  made.height = source.height
  const paper = made.getContext('2d')!
  if (backdrop) paintBackdrop(paper, made.height)
  paper.drawImage(source, 0, 0)
  const link = document.createElement('a')
  link.href = made.toDataURL('image/png')
  link.download = `${name(shownNode.value) || 'view'}.png`
  link.click()
}

function paintBackdrop(paper: CanvasRenderingContext2D, height: number) {
  const style = getComputedStyle(document.documentElement)
  const backdrop = paper.createLinearGradient(0, 0, 0, height)
  backdrop.addColorStop(0, style.getPropertyValue('--backdrop-top'))
  backdrop.addColorStop(1, style.getPropertyValue('--backdrop-bottom'))
  paper.fillStyle = backdrop
  paper.fillRect(0, 0, paper.canvas.width, height)
}

function toggleParallel() {
  parallel.value = !parallel.value
  scene?.setParallel(parallel.value)
}

function goTo(kept: Standpoint) {
  scene?.goTo(kept)
  parallel.value = kept.parallel
}

function paint() {
  const style = getComputedStyle(document.documentElement)
  const hue = (variable: string) => new THREE.Color(style.getPropertyValue(variable).trim())
  const night = theme.value === 'night'
  scene?.setPalette({
    clay: new THREE.Color(...(night ? [0.74, 0.72, 0.68] : [0.88, 0.8, 0.7]) as [number, number, number]),
    wire: hue(night ? '--line' : '--wire'),
    point: hue('--ink'),
    chosen: hue('--accent'),
    normal: hue('--accent'),
  })
}

watch(() => [view.faces, view.wire, view.points, view.smooth], () => scene?.setShown(view))
watch([selection.chosen, selection.kind], () => scene?.setChosen(selection.kind.value, selection.chosen.value))
watch(theme, () => nextTick(paint))

onMounted(() => {
  scene = new Scene(canvas.value!)
  scene.onDraw = () => {
    turn.value = scene!.camera.quaternion.toArray()
    if (view.labels) moment.value += 1
  }
  ready.value = true
  scene.resize(box.value!.clientWidth, box.value!.clientHeight)
  scene.setShown(view)
  paint()
  void update()
})
useResizeObserver(box, ([entry]) => {
  area.value = { width: entry!.contentRect.width, height: entry!.contentRect.height }
  scene?.resize(area.value.width, area.value.height)
})
onBeforeUnmount(() => scene?.dispose())
/** The view as a PNG, for the page of an operator. */
async function picture(): Promise<string> {
  const source = canvas.value
  if (!source?.width) return ''
  scene?.draw()
  await new Promise((wake) => requestAnimationFrame(() => requestAnimationFrame(wake)))
  const made = document.createElement('canvas')
  made.width = 640
  made.height = 400
  const paper = made.getContext('2d')!
  paintBackdrop(paper, 400)
  const scale = Math.max(640 / source.width, 400 / source.height)
  paper.drawImage(source, (640 - source.width * scale) / 2, (400 - source.height * scale) / 2, source.width * scale, source.height * scale)
  return made.toDataURL('image/png')
}
defineExpose({ frame, picture })
</script>

<template>
  <section class="view" aria-label="View">
    <ViewBar :summary="summary" @frame="frame" />
    <div ref="box" class="stage" :aria-busy="loading > 0">
      <canvas ref="canvas" tabindex="0" aria-label="Mesh; drag to turn, scroll to zoom, click to select" data-test="canvas" @pointerdown="press" @pointermove="paintTool.move" @pointerup="release" />
      <div v-if="banner" class="banner warn" role="status" data-test="banner">{{ banner }}</div>
      <div v-if="failure || trouble" class="banner bad" role="alert">{{ failure || trouble }}</div>
      <div v-if="running && slow" class="banner busy" role="status" data-test="progress">
        <progress :value="progress.done" :max="progress.total || 1" />
        {{ progress.node ? `Evaluating ‘${name(progress.node)}’` : 'Waiting' }} ({{ progress.done + 1 }} of {{ progress.total || 1 }})
        <button class="plain boxed" data-test="stop" @click="stop">Stop</button>
      </div>
      <div v-if="isEmpty" class="hint">
        <p>Nothing here yet.</p>
        <p>Press <kbd>/</kbd> to find a shape to start from, or drop a mesh file (OBJ, PLY, STL) anywhere on the page.</p>
      </div>
      <div v-else-if="noResult" class="hint"><p>There is no result to show. The marked card says why.</p></div>
      <Drawing v-if="view.tool === 'box' || view.tool === 'lasso'" :tool="view.tool" @done="drawn" />
      <Labels v-if="ready && view.labels && middles.length" :middles="middles" :values="view.labels === 'index' ? null : labelValues" :size="labelSize" :camera="scene!.camera" :moment="moment" :width="area.width" :height="area.height" />
      <Rail :parallel="parallel" :keep="(kept) => scene?.standpoint(kept) ?? null" @along="scene?.lookAlong($event)" @parallel="toggleParallel" @go="goTo" @still="still" />
      <Inspector v-if="panel" @frame="frame(true)" />
      <div v-if="view.tool === 'measure'" class="held up" data-test="measured">{{ measured(spots) }}</div>
      <label v-if="view.cut" class="held up" data-test="cut">section across {{ view.cut }} <input v-model.number="view.cutAt" type="range" min="0" max="1" step="0.005" aria-label="Where the section is" /></label>
      <div v-if="held" class="held" data-test="handle">
        <span><b>{{ held.label }}</b> <span class="mono">{{ held.value.map((part) => short(part)).join(', ') }}</span> m</span>
        <button v-if="places.length > 1" class="plain" title="Another place of this card" @click="which += 1">next</button>
        <label title="Move in steps of 5 cm"><input v-model="snapping" type="checkbox" /> snap</label>
      </div>
      <Legend v-if="legend && (view.color || comparing)" :legend="legend" :kind="comparing ? 'point' : view.color!.kind" />
      <AxesMarker :turn="turn" />
    </div>
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
.stage {
  position: relative;
  flex: 1;
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
.banner {
  position: relative;
  display: flex;
  align-items: center;
  gap: 10px;
  width: fit-content;
  max-width: calc(100% - 20px);
  margin: 8px auto 0;
  padding: 4px 12px;
  border: 1px solid currentcolor;
  border-radius: 6px;
  font-size: 13px;
}
.warn {
  color: var(--warn);
  background: var(--warn-wash);
}
.bad {
  color: var(--bad);
  background: var(--bad-wash);
}
.busy {
  background: var(--raised);
  border-color: var(--line);
}
.busy progress {
  width: 90px;
  accent-color: var(--accent);
}
.held {
  position: absolute;
  right: 84px;
  bottom: 10px;
  z-index: 3;
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 2px 10px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: color-mix(in srgb, var(--sheet) 94%, transparent);
  font-size: 13px;
}
.up {
  bottom: 46px;
}
.hint {
  position: absolute;
  inset: 30% 10% auto;
  text-align: center;
  color: var(--faint-ink);
  font-size: 15px;
}
</style>
