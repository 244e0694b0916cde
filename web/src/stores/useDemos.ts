/** Demos that ship with the product, and those of them that are in this project already. */
import { createGlobalState } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { tell } from './useChanges'
import { useProject } from './useProject'

/** A demo, or the graph of an example. */
type Shipped = Pick<Schemas['DemoState'], 'document' | 'shapes'> & Partial<Schemas['DemoState']>

export const useDemos = createGlobalState(() => {
  const project = useProject()
  const known = ref<Schemas['DemoSummary'][]>([])
  /** The demo that is on its way. */
  const taking = ref('')
  /** Why there are none. */
  const trouble = ref('')

  const demos = computed(() =>
    known.value.map((demo) => ({
      ...demo,
      graph: project.graphs.value.find((one) => one.title === demo.title)?.id ?? null,
    })),
  )

  async function load(): Promise<void> {
    if (known.value.length) return
    try {
      known.value = (await api.demos()).demos
      trouble.value = known.value.length ? '' : 'This release has no demos.'
    } catch (error) {
      trouble.value = error instanceof Error ? error.message : String(error)
    }
  }

  /** Open a demo: the graph of this project that has its title, else a new one with the shapes that it needs. */
  async function take(name: string): Promise<void> {
    const demo = demos.value.find((one) => one.name === name)
    if (taking.value || !demo) return
    taking.value = name
    try {
      if (demo.graph) return await project.openGraph(demo.graph)
      await add(await api.demo(name))
    } catch (error) {
      tell(error)
    } finally {
      taking.value = ''
    }
  }

  /** Upload what the project has not yet of shapes that ship with the product. */
  async function fetchShapes(shapes: readonly Schemas['DemoShape'][]): Promise<void> {
    const missing = shapes.filter((shape) => !project.shapeNames.value.includes(shape.name))
    for (const shape of missing) await project.upload(await api.demoShape(shape))
  }

  /** Take a graph into the project, with the shapes that it needs and its proof sheet. */
  async function add({ document, shapes, name, sheet }: Shipped): Promise<void> {
    await fetchShapes(shapes)
    await project.addGraph(document.title as string, document, sheet && name ? await api.demoSheet(name) : null)
  }

  /** Open a graph that ships with the product; the one that is there already is opened again. */
  async function openOnce(asked: Promise<Shipped>): Promise<void> {
    try {
      const found = await asked
      const there = project.graphs.value.find((one) => one.title === found.document.title)
      if (there) return await project.openGraph(there.id)
      await add(found)
    } catch (error) {
      tell(error)
    }
  }

  return {
    demos,
    taking,
    trouble,
    load,
    take,
    fetchShapes,
    /** Open what the address of the page asks for: `?demo=NAME` or `?example=OPERATOR`, as the documentation links it. */
    async follow(asked: string): Promise<void> {
      const { demo, example } = Object.fromEntries(new URLSearchParams(asked))
      if (demo) await openOnce(api.demo(demo))
      else if (example) await openOnce(api.example(example))
    },
  }
})
