/** Files that come in: meshes become shapes of the project and cards, packages are reviewed; and a result kept as a shape. */
import { promiseTimeout, until, useEventListener, useLocalStorage } from '@vueuse/core'
import { ElMessage } from 'element-plus'
import { ref } from 'vue'
import { api } from '../api/client'
import { askName } from '../shared/askName'
import { tell } from '../stores/useChanges'
import { useCatalogue } from '../stores/useCatalogue'
import { useEvaluation } from '../stores/useEvaluation'
import { useGraph } from '../stores/useGraph'
import { usePackages } from '../stores/usePackages'
import { useProject } from '../stores/useProject'
import { arrivalsOf, endingOf, type Arrival } from './arrivals'

/** So long the first sign of an evaluation, and its picture, may take. */
const ARRIVING_MS = 900

/** `add` puts a card for a shape onto the board, `frame` moves the camera once its mesh has arrived. */
export function useFiles(
  add: (operator: string, parameters: Record<string, unknown>) => Promise<unknown>,
  frame: () => void,
) {
  const graph = useGraph()
  const project = useProject()
  const { shownNode, running } = useEvaluation()
  const { reviewFile } = usePackages()
  const { catalogue } = useCatalogue()
  const dropping = ref(false)
  /** Files that wait for somebody to look at what will be kept of them. */
  const arrivals = ref<Arrival[]>([])
  const atOnce = useLocalStorage('reticula reads at once', false)
  const shaping = ref(false)

  /** Take files in; where something is left out of one, or can be chosen, that is shown first. */
  async function upload(files: FileList | File[]) {
    const found = await arrivalsOf([...files], catalogue.formats)
    if (!atOnce.value && found.some((one) => one.asks)) {
      arrivals.value = found
      shaping.value = false
    } else await take(found, {})
  }

  /** Read what was shown; `errors` says how far lines may be from bows, m, by the file's name. */
  async function read(errors: Record<string, number>, silent: boolean) {
    const found = arrivals.value.filter((one) => one.isPackage || one.format)
    arrivals.value = []
    atOnce.value = silent
    await take(found, errors)
  }

  async function take(found: Arrival[], errors: Record<string, number>) {
    for (const { file, isPackage, format } of found) {
      if (isPackage) {
        await reviewFile(file)
        continue
      }
      const busy = ElMessage({ message: `Reading ${file.name} …`, duration: 0 })
      try {
        const made = await project.upload(file)
        shaping.value = false
        await bring(made.name, format, errors[file.name] ?? 0)
        void arrived().then(frame)
        ElMessage({ type: 'success', message: `${file.name} is in the project as ‘${made.name}’.` })
      } catch (error) {
        ElMessage({
          type: 'error',
          message: `${file.name}: ${error instanceof Error ? error.message : String(error)}`,
          duration: 8000,
          showClose: true,
        })
      } finally {
        busy.close()
      }
    }
  }

  /** Wait until what was added last is evaluated and drawn. */
  async function arrived() {
    await until(running).toBe(true, { timeout: ARRIVING_MS })
    await until(running).toBe(false)
    await promiseTimeout(ARRIVING_MS)
  }

  /** Put a card for a shape of the project onto the board: a picture becomes a sheet. */
  function bring(name: string, format: Arrival['format'], error = 0) {
    if (format && !format.written) return add('read_picture', { picture: name })
    return add('project_shape', error > 0 ? { shape: name, error } : { shape: name })
  }

  /** Use a shape that is in the project. */
  function use(name: string) {
    shaping.value = false
    const stored = project.shapes.value.find((shape) => shape.name === name)
    return bring(name, catalogue.formats[endingOf(stored?.file_name ?? '')] ?? null)
  }

  /** Keep what is looked at as a shape of the project; the graph stays as it is. */
  async function freeze(named: string) {
    const node = shownNode.value
    const id = graph.state.value?.id
    if (!node || !id) return tell('There is no result to freeze.')
    const asked = 'The shape’s name. It keeps all attributes; the graph stays as it is.'
    const name = await askName('Freeze', 'Freeze', { offered: named, asked })
    if (!name) return
    try {
      const made = await api.freeze(id, node, name, graph.basis())
      await project.reloadShapes()
      ElMessage({ type: 'success', message: `It is in the project as ‘${made.name}’.` })
    } catch (error) {
      tell(error)
    }
  }

  useEventListener(window, 'dragover', (event: DragEvent) => {
    if (!event.dataTransfer?.types.includes('Files')) return
    event.preventDefault()
    dropping.value = true
  })
  useEventListener(window, 'dragleave', (event: DragEvent) => {
    if (!event.relatedTarget) dropping.value = false
  })
  useEventListener(window, 'drop', (event: DragEvent) => {
    dropping.value = false
    if (!event.dataTransfer?.files.length) return
    event.preventDefault()
    void upload(event.dataTransfer.files)
  })

  return { shaping, dropping, arrivals, upload, read, use, freeze }
}
