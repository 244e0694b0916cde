/** Keeps the scene in step with the newest results: shape, colours, strokes and comparison belong to one moment. */
import * as THREE from 'three'
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../../api/client'
import {
  answerTo,
  type AttributeLook,
  type Difference,
  type Kind,
  type LookAnswer,
  type Summary,
} from '../../api/results'
import { useEvaluation } from '../../stores/useEvaluation'
import { useSelection } from '../../stores/useSelection'
import { useGraph } from '../../stores/useGraph'
import { byValues } from '../../model/values/colorChoice'
import { colorize, isColor, type Legend } from '../color/colors'
import { fetchMesh, fetchValues, type MeshData } from '../rendering/meshData'
import { NOTHING } from '../rendering/picture'
import { readLooks, type Drawn } from './resultPicture'
import type { Scene } from '../rendering/scene'
import { useInspection } from '../../stores/useInspection'
import { breathe } from '../../shared/breathe'
import { useView } from '../../stores/useView'

export function useRenderData(sceneOf: () => Scene | null) {
  const view = useView()
  const selection = useSelection()
  const { looks } = useEvaluation()
  const { document: graph, state } = useGraph()
  const inspect = useInspection()
  const drawn = shallowRef<Drawn | null>(null)
  /** What the colours mean: those of the result, or the distance to another one. */
  const legend = shallowRef<{ legend: Legend; kind: string } | null>(null)
  const trouble = ref('')
  /** How many looks are being turned into a picture. */
  const loading = ref(0)
  const mesh = computed<MeshData | null>(() => drawn.value?.mesh ?? null)
  const summary = computed<Summary | null>(() => drawn.value?.summary ?? null)
  let framed = ''
  let newest = 0
  let ghostMoment = 0

  /** Two pictures are shown, of this result and of another one. */
  const isDouble = computed(
    () => inspect.panel.value === 'compare' && view.form !== 'colours' && inspect.isChosen.value,
  )

  async function update() {
    loading.value += 1
    try {
      await read(++newest)
    } catch (error) {
      trouble.value = error instanceof Error ? error.message : String(error)
    } finally {
      loading.value -= 1
    }
  }

  async function read(number: number) {
    const answer = looks.value
    if (!answer) {
      drawn.value = legend.value = null
      sceneOf()?.show(NOTHING)
      return
    }
    trouble.value = ''
    const next = await readLooks(answer.queries, answer.answers, view)
    if (!next) return
    const found =
      inspect.panel.value === 'compare' && view.form === 'colours' && !view.flat ? inspect.difference.value : null
    // While something is dragged, the difference may still be that of a shape with other points.
    const distance = found?.distance.shape[0] === next.mesh.position.length / 3 ? await distanceTint(found) : null
    const other = isDouble.value ? await readOther(next.legend) : null
    await breathe()
    const scene = sceneOf()
    if (number !== newest || !scene) return
    // What feeds a failed node may lack the colour; the colour box says so, which is enough.
    if (answer.node === graph.value.looking_at) trouble.value = next.trouble
    drawn.value = next
    legend.value = distance
      ? { legend: distance.legend, kind: 'point' }
      : next.legend && { legend: next.legend, kind: view.color?.kind ?? '' }
    showOwnColors()
    scene.show(
      { mesh: next.mesh, tint: distance?.tint ?? next.tint, edges: next.edges, radii: next.radii },
      next.strokes,
    )
    if (isDouble.value ? other : true)
      scene.showOther(other, { form: view.form === 'colours' ? 'one' : view.form, line: view.line })
    scene.setChosen(selection.kind.value, selection.chosen.value)
    const place = `${state.value?.id ?? ''}${view.flat ? ' flat' : ''}${isDouble.value && other && view.form === 'beside' ? ' beside' : ''}`
    if (framed !== place && (next.mesh.position.length || next.mesh.instances.length)) {
      framed = place
      scene.frame(next.mesh.bounds, true)
    }
  }

  /** The other result, in the colours and on the scale of this one. */
  async function readOther(own: Legend | null): Promise<Drawn | null> {
    const answers = await inspect.askOther(looks.value!.queries)
    if (!answers) return null
    const range: [number, number] | null = own?.form === 'range' ? [own.from, own.to] : null
    return readLooks(looks.value!.queries, answers, view, range)
  }

  /** How far each point is from what is compared with, as colours. */
  async function distanceTint(found: Difference) {
    const look: AttributeLook = {
      what: 'attribute',
      name: 'distance',
      type: 'number',
      kind: 'point',
      unit: 'm',
      values: found.distance,
      low: [0],
      high: [found.farthest],
    }
    const made = colorize(look, await fetchValues(look), '', view.scale, view.range)
    return { tint: { kind: look.kind, colors: made.colors, depth: 0.28 }, legend: made.legend }
  }

  /** Until a colour is chosen, a mesh that has colours shows them. */
  function showOwnColors() {
    if (view.chosen) return
    const kind = (['point', 'corner', 'face'] as Kind[]).find((on) =>
      [...(summary.value?.attributes[on] ?? []), ...(summary.value?.placed[on] ?? [])].some(isColor),
    )
    if (kind ? view.color?.kind !== kind : view.color) view.color = kind ? byValues(kind, 'color') : null
  }

  /** Other results as faint wires: those of ghosted cards, and the one that is compared with. */
  async function drawGhosts() {
    const id = state.value?.id
    const compared = inspect.panel.value === 'compare' && view.form === 'colours' ? inspect.otherMesh() : null
    const wanted = [...new Set(view.ghosts)].filter((node) => node in graph.value.nodes)
    const asked = ++ghostMoment
    const one = async (answer: Promise<{ looks: LookAnswer[] }> | null) => {
      const look = answerTo('mesh', (await answer?.catch(() => null))?.looks[0])
      return look ? fetchMesh(look) : null
    }
    const meshes = await Promise.all([
      ...wanted.map((node) => one(api.looks(id!, node, [{ what: 'mesh' }], useGraph().basis()))),
      one(compared),
    ])
    const accent = getComputedStyle(document.documentElement).getPropertyValue('--accent').trim()
    if (asked === ghostMoment)
      sceneOf()?.setGhosts(
        meshes.filter((each) => each !== null),
        new THREE.Color(accent),
      )
  }

  watch(looks, update)
  watch(
    () => [
      view.scale,
      view.range,
      view.strokeLength,
      view.form,
      inspect.difference.value,
      inspect.panel.value,
      inspect.other.value,
    ],
    update,
  )
  watch(
    () => view.line,
    (line) => isDouble.value && view.form === 'across' && sceneOf()?.setPanes({ form: 'across', line }),
  )
  watch(
    () => [view.ghosts.join(), view.form, inspect.panel.value, inspect.other.value, looks.value?.key],
    () => void drawGhosts(),
  )

  return { drawn, mesh, summary, legend, trouble, loading, isDouble, update }
}
