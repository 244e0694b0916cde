/** Demos that ship with the product, and those of them that are in this project already. */
import { createGlobalState } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { tell } from './useChanges'
import { useProject } from './useProject'

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
      const { document, shapes, title } = await api.demo(name)
      const missing = shapes.filter((shape) => !project.shapeNames.value.includes(shape.name))
      for (const shape of missing) await project.upload(await api.demoShape(shape))
      await project.addGraph(title, document)
    } catch (error) {
      tell(error)
    } finally {
      taking.value = ''
    }
  }

  return { demos, taking, trouble, load, take }
})
