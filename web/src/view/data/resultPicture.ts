/** From the answers to queries to what is drawn: shape, colours, strokes and labels of one moment. */
import { fetchBuffer, type Numbers } from '../../api/buffers'
import {
  isError,
  type AttributeLook,
  type EdgesLook,
  type GroupsLook,
  type MeshLook,
  type NormalsLook,
  type Summary,
  type UvLook,
} from '../../api/results'
import type { ResultQuery } from '../../stores/useEvaluation'
import { checkerLegend, colorize, isColor, tintGroups, tintPieces, type Legend } from '../color/colors'
import type { EdgeKinds } from '../rendering/edgeLines'
import { fetchMesh, fetchValues, strokeLines, take, type MeshData } from '../rendering/meshData'
import { sizeOf, type Content, type Tint } from '../rendering/picture'
import type { ViewState } from '../../stores/useView'
import type { Part } from './resultQueries'

export interface Drawn extends Content {
  mesh: MeshData
  legend: Legend | null
  summary: Summary
  strokes: Float32Array | null
  labels: { values: Numbers; size: number } | null
  /** Why the colour or the flat layout cannot be shown. */
  trouble: string
}

type Answer = Record<string, unknown>

/** Read the answers; null if there is no shape among them. `range` replaces the view's, so that two pictures have one scale. */
export async function readLooks(
  queries: ResultQuery[],
  answers: Answer[],
  view: ViewState,
  range = view.range,
): Promise<Drawn | null> {
  const find = <Look>(part: Part): Look | null => {
    const at = queries.findIndex((query) => query.as === part)
    const answer = at < 0 ? null : answers[at]
    return answer && !isError(answer) ? (answer as Look) : null
  }
  const failed = (part: Part) => {
    const answer = answers[queries.findIndex((query) => query.as === part)]
    return isError(answer) ? answer.error.message : ''
  }
  const look = find<MeshLook>('mesh')
  if (!look || !('position' in look)) {
    if (failed('mesh')) throw new Error(failed('mesh'))
    return null
  }
  const mesh = await fetchMesh(look)
  const colored = await readColor(find('color'), view, range)
  const vectors = find<NormalsLook>('strokes')
  const written = find<AttributeLook>('labels')
  const sizes = find<AttributeLook>('sizes')
  return {
    mesh,
    summary: find<Summary>('summary')!,
    tint: colored ? laidOut(colored.tint, mesh) : null,
    legend: colored?.legend ?? null,
    edges: await readEdges(find('edges')),
    radii: sizes && !mesh.own ? ((await fetchValues(sizes)) as Float32Array) : null,
    strokes: vectors && 'begin' in vectors ? await strokeLines(vectors, sizeOf(mesh) * view.strokeLength) : null,
    labels: written ? { values: await fetchValues(written), size: written.values.shape[1] ?? 1 } : null,
    trouble: failed('color'),
  }
}

async function readColor(
  look: unknown,
  view: ViewState,
  range: [number, number] | null,
): Promise<{ tint: Tint; legend: Legend } | null> {
  if (!look || !view.color) return null
  if (view.color.how === 'groups') {
    const about = look as GroupsLook
    const made = tintGroups(about, (await fetchBuffer(about.values)) as Uint32Array)
    return { tint: { kind: about.kind, colors: made.colors, depth: 0.4 }, legend: made.legend }
  }
  if (view.color.how === 'checker') {
    const about = look as UvLook
    const uv = (await fetchBuffer(about.values)) as Float32Array
    const colors = new Float32Array((uv.length / 2) * 3)
    for (let i = 0; i < uv.length / 2; i++) colors.set([uv[i * 2]!, uv[i * 2 + 1]!], i * 3)
    return { tint: { kind: 'corner', colors, depth: 0.5, as: 'checker' }, legend: checkerLegend(about) }
  }
  const about = look as AttributeLook
  const values = await fetchValues(about)
  if (view.color.how === 'material') {
    const made = tintPieces(values)
    return { tint: { kind: 'face', colors: made.colors, depth: 1, as: 'material' }, legend: made.legend }
  }
  const made = colorize(about, values, view.color.part, view.scale, range)
  return { tint: { kind: about.kind, colors: made.colors, depth: isColor(about) ? 0.55 : 0.28 }, legend: made.legend }
}

/** In a layout by uv, points and edges are drawn once for each corner. */
function laidOut(tint: Tint, mesh: MeshData): Tint {
  if (mesh.own && tint.kind === 'point')
    return { ...tint, kind: 'corner', colors: take(tint.colors, mesh.own.point, 3) }
  if (mesh.own && tint.kind === 'edge') return { ...tint, colors: take(tint.colors, mesh.own.edge, 3) }
  return tint
}

async function readEdges(look: EdgesLook | null): Promise<EdgeKinds | null> {
  if (!look) return null
  return {
    kinds: (await fetchBuffer(look.kinds)) as Uint8Array,
    counts: [look.border, look.crease, look.crowded],
    creasesAre: look.creases_are,
  }
}
