/** The open project: its graphs and shapes, and the way to open another. The address of the page names the graph. */
import { createGlobalState } from '@vueuse/core'
import { computed, ref } from 'vue'
import { api, type AssetState, type GraphState, type Schemas } from '../api/client'
import { ahead, graphAhead } from '../api/ahead'
import { useGraph } from './useGraph'

export const useProject = createGlobalState(() => {
  const projects = ref<Schemas['ProjectState'][]>([])
  const graphs = ref<Schemas['GraphSummary'][]>([])
  const shapes = ref<AssetState[]>([])
  const project = ref<Schemas['ProjectState'] | null>(null)
  const graph = useGraph()

  async function openProject(id: string): Promise<void> {
    project.value = projects.value.find((entry) => entry.id === id) ?? null
    graph.lookOnly.value = project.value?.role === 'look'
    const [listed, stored] = await Promise.all([api.graphs(id), api.assets(id)])
    graphs.value = listed.graphs
    shapes.value = stored.assets
  }

  async function openGraph(id: string, known?: GraphState): Promise<void> {
    await graph.open(id, known)
    history.replaceState(null, '', `${location.pathname}#${id}`)
  }

  /** Open the first graph; an empty project gets one, if one may. */
  async function openFirst(): Promise<void> {
    if (!graphs.value.length) {
      if (graph.lookOnly.value) throw new Error('There is no graph in this project yet.')
      graphs.value = [await api.makeGraph(project.value!.id, 'Untitled')]
    }
    await openGraph(graphs.value[0]!.id)
  }

  return {
    /** Whether nothing here may be changed. */
    lookOnly: graph.lookOnly,
    projects,
    graphs,
    shapes,
    project,
    shapeNames: computed(() => shapes.value.map((shape) => shape.name)),

    /** Open what the address names, else the first graph of the first project; `begin` as soon as the graph is there. */
    async start(begin = () => {}): Promise<void> {
      const wanted = location.hash.slice(1)
      const [listed, there] = await Promise.all([ahead('projects'), wanted ? graphAhead(wanted) : null])
      projects.value = listed.projects
      if (!projects.value.length) projects.value = [await api.makeProject('My project')]
      const opening = openProject(there?.project_id ?? projects.value[0]!.id)
      if (there) {
        await openGraph(there.id, there)
        begin()
        return opening
      }
      await opening
      await openFirst()
      begin()
    },

    openGraph,

    async switchProject(id: string): Promise<void> {
      await openProject(id)
      await openFirst()
    },

    async addProject(title: string): Promise<void> {
      const made = await api.makeProject(title)
      projects.value = [...projects.value, made]
      await openProject(made.id)
      const first = await api.makeGraph(made.id, 'Untitled')
      graphs.value = [first]
      await openGraph(first.id)
    },

    /** Make a graph, with a proof sheet of it if there is one, and open it. */
    async addGraph(title: string, document?: object, sheet?: File | null): Promise<void> {
      const made = await api.makeGraph(project.value!.id, title, document)
      graphs.value = [...graphs.value, made]
      try {
        if (sheet) await api.bringSheet(made.id, sheet)
      } finally {
        await openGraph(made.id)
      }
    },

    async upload(file: File): Promise<AssetState> {
      const made = await api.upload(project.value!.id, file)
      shapes.value = [...shapes.value, made].sort((a, b) => a.name.localeCompare(b.name))
      return made
    },

    async reloadShapes(): Promise<void> {
      shapes.value = (await api.assets(project.value!.id)).assets
    },

    async dropShape(id: string): Promise<void> {
      await api.dropAsset(id)
      shapes.value = shapes.value.filter((shape) => shape.id !== id)
    },
  }
})
