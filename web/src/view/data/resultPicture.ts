/** From the answers to queries to what is drawn: shape, colours, strokes and labels of one moment. */
import { fetchBuffer, type Numbers } from '../../api/buffers'
import { answerTo, troubleOf, type EdgesLook, type LookAnswer, type LookQuery, type Summary } from '../../api/results'
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

/** Read the answers; null if there is no shape among them. `range` replaces the view's, so that two pictures have one scale. */
export async function readLooks(
  queries: LookQuery[],
  answers: LookAnswer[],
  view: ViewState,
  range = view.range,
): Promise<Drawn | null> {
  const find = (part: Part) => answers[queries.findIndex((query) => query.as === part)]
  const look = answerTo('mesh', find('mesh')) ?? answerTo('flat', find('mesh'))
  if (!look) {
    if (troubleOf(find('mesh'))) throw new Error(troubleOf(find('mesh')))
    return null
  }
  const mesh = await fetchMesh(look)
  const colored = await readColor(find('color'), view, range)
  const vectors = answerTo('normals', find('strokes'))
  const written = answerTo('attribute', find('labels'))
  const sizes = answerTo('attribute', find('sizes'))
  return {
    mesh,
    summary: answerTo('summary', find('summary'))!,
    tint: colored ? laidOut(colored.tint, mesh) : null,
    legend: colored?.legend ?? null,
    edges: await readEdges(answerTo('edges', find('edges'))),
    radii: sizes && !mesh.own ? ((await fetchValues(sizes)) as Float32Array) : null,
    strokes: vectors ? await strokeLines(vectors, sizeOf(mesh) * view.strokeLength) : null,
    labels: written ? { values: await fetchValues(written), size: written.values.shape[1] ?? 1 } : null,
    trouble: troubleOf(find('color')),
  }
}

async function readColor(
  look: LookAnswer | undefined,
  view: ViewState,
  range: [number, number] | null,
): Promise<{ tint: Tint; legend: Legend } | null> {
  if (!view.color) return null
  const groups = answerTo('groups', look)
  if (groups) {
    const made = tintGroups(groups, (await fetchBuffer(groups.values)) as Uint32Array)
    return {
      tint: inParts({ kind: groups.kind, colors: made.colors, depth: 0.4 }, groups.parts),
      legend: made.legend,
    }
  }
  const sheet = answerTo('uv', look)
  if (sheet) {
    const uv = (await fetchBuffer(sheet.values)) as Float32Array
    const colors = new Float32Array((uv.length / 2) * 3)
    for (let i = 0; i < uv.length / 2; i++) colors.set([uv[i * 2]!, uv[i * 2 + 1]!], i * 3)
    return {
      tint: inParts({ kind: 'corner', colors, depth: 0.5, as: 'checker' }, sheet.parts),
      legend: checkerLegend(sheet),
    }
  }
  const about = answerTo('attribute', look)
  if (!about) return null
  const values = await fetchValues(about)
  if (view.color.how === 'material') {
    const made = tintPieces(values)
    return {
      tint: inParts({ kind: 'face', colors: made.colors, depth: 1, as: 'material' }, about.parts),
      legend: made.legend,
    }
  }
  const made = colorize(about, values, view.color.part, view.scale, range)
  const tint = { kind: about.kind, colors: made.colors, depth: isColor(about) ? 0.55 : 0.28 }
  return { tint: inParts(tint, about.parts), legend: made.legend }
}

/** Colours of the geometry come first, then those of each shape that stands in it. */
function inParts(tint: Tint, parts: number[] | undefined): Tint {
  if (!parts) return tint
  let at = 0
  const [own, ...placed] = parts.map((rows) => (rows ? tint.colors.subarray(at * 3, (at += rows) * 3) : null))
  return { ...tint, colors: own ?? new Float32Array(0), placed }
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
