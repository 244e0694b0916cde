/** Where the board stands: cards are laid out by their real size, and what was opened, added or looked for is moved into sight. */
import { useVueFlow } from '@vue-flow/core'
import { computed, nextTick, ref, watch, type Ref } from 'vue'
import { splitFeed, structureOf } from '../../model/document'
import { layout, revealing, viewportFor, type Place, type Size, type Way } from '../../model/layout'
import { memo } from '../../shared/memo'
import { useGraph } from '../../stores/useGraph'

/** After a graph is opened or a card added, cards grow as their results arrive; until then, or a touch, the board follows. */
const SETTLING_MS = 2500
/** How small cards may get, so that all of a large graph fit the board. */
export const LEAST_ZOOM = 0.005
/** Below this zoom cards show their titles alone, large enough to be read. */
export const FAR = 0.55
const CLOSED: Size = { width: 224, height: 76 }

export function useBoardViewport(chosenCards: Readonly<Ref<ReadonlySet<string>>>, way: Readonly<Ref<Way>>) {
  const graph = useGraph()
  const flow = useVueFlow('board')
  const sizes = ref<Record<string, Size>>({})
  const kept = memo<Record<string, Place>>()
  const places = computed(() =>
    kept(`${structureOf(graph.document.value)} ${JSON.stringify(sizes.value)} ${way.value}`, () =>
      layout(graph.document.value, sizes.value, way.value),
    ),
  )

  /** Cards are laid out by their real size: an opened card makes room for itself. */
  flow.onNodesInitialized(measure)
  watch(
    () => flow.getNodes.value.map((node) => `${node.id}:${node.dimensions.width}x${node.dimensions.height}`).join(),
    measure,
  )
  function measure() {
    const next: Record<string, Size> = {}
    for (const node of flow.getNodes.value) if (node.dimensions.width) next[node.id] = { ...node.dimensions }
    if (JSON.stringify(next) !== JSON.stringify(sizes.value)) sizes.value = next
  }

  /**
   * Show everything at full size if there is room; else the card that is looked at, with what leads to it. The one card that is
   * open is in sight in any case.
   */
  async function fit() {
    await nextTick()
    const { width, height } = flow.dimensions.value
    const at = splitFeed(graph.document.value.looking_at ?? '').from
    const viewport = viewportFor(places.value, sizes.value, at, { width, height })
    await flow.setViewport({ ...withOpened(viewport), zoom: 1 })
  }

  /** Return the viewport moved as little as it takes to show the one card that is open. */
  function withOpened(viewport: Place): Place {
    const place = places.value[opened]
    const size = sizes.value[opened]
    return place && size ? revealing(viewport, place, size, flow.dimensions.value) : viewport
  }

  /** Show all cards, however small they get. */
  async function showAll() {
    settling = 0
    await nextTick()
    await flow.fitView({ padding: 0.05, minZoom: LEAST_ZOOM, maxZoom: 1, duration: 160 })
  }

  /** The one card that is open: it is moved into sight as its size gets known, until one moves the board oneself. */
  let opened = ''
  let settling = Date.now() + SETTLING_MS
  watch([() => graph.state.value?.id, () => graph.path.value.join('/')], () => {
    follow()
  })
  function follow() {
    settling = Date.now() + SETTLING_MS
  }
  watch(sizes, () => {
    if (Date.now() < settling && Object.keys(sizes.value).length) setTimeout(fit, 60)
  })

  watch(chosenCards, (now) => {
    opened = now.size === 1 ? [...now][0]! : ''
    if (opened && flow.viewport.value.zoom < FAR) void centre(opened)
  })
  watch(sizes, (now) => {
    const at = flow.viewport.value
    if (now[opened] && at.zoom === 1) void flow.setViewport({ ...withOpened(at), zoom: 1 }, { duration: 120 })
  })
  flow.onMoveStart(({ event }: { event?: { sourceEvent?: unknown } }) => {
    if (!event?.sourceEvent) return
    settling = 0
    opened = ''
  })

  /** Move the board to a card. */
  async function centre(id: string): Promise<void> {
    settling = 0
    const place = places.value[id]
    const pane = flow.dimensions.value
    const size = sizes.value[id] ?? CLOSED
    if (place)
      await flow.setViewport(
        { x: pane.width / 2 - place.x - size.width / 2, y: pane.height / 3 - place.y, zoom: 1 },
        { duration: 200 },
      )
  }

  return { sizes, places, fit, showAll, follow, centre }
}
