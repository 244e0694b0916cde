/** Files that come in: meshes become shapes of the project and cards, packages are reviewed; and a result kept as a shape. */
import { useEventListener } from '@vueuse/core'
import { ElMessage, ElMessageBox } from 'element-plus'
import { ref } from 'vue'
import { api } from '../api/client'
import { tell } from '../stores/useChanges'
import { useEvaluation } from '../stores/useEvaluation'
import { useGraph } from '../stores/useGraph'
import { usePackages } from '../stores/usePackages'
import { useProject } from '../stores/useProject'
import { withParts } from './withParts'

const ARRIVING_MS = 900

/** `add` puts a card for a shape onto the board, `frame` moves the camera once its mesh has arrived. */
export function useFiles(
  add: (operator: string, parameters: Record<string, unknown>) => Promise<unknown>,
  frame: () => void,
) {
  const graph = useGraph()
  const project = useProject()
  const { shownNode } = useEvaluation()
  const { reviewFile } = usePackages()
  const dropping = ref(false)
  const shaping = ref(false)

  async function upload(files: FileList | File[]) {
    for (const file of await withParts([...files])) {
      if (/\.zip$/i.test(file.name)) {
        await reviewFile(file)
        continue
      }
      const busy = ElMessage({ message: `Reading ${file.name} …`, duration: 0 })
      try {
        const made = await project.upload(file)
        shaping.value = false
        await add('project_shape', { shape: made.name })
        setTimeout(frame, ARRIVING_MS)
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

  /** Keep what is looked at as a shape of the project; the graph stays as it is. */
  async function freeze(named: string) {
    const node = shownNode.value
    const id = graph.state.value?.id
    if (!node || !id) return tell('There is no result to freeze.')
    const answer = await ElMessageBox.prompt(
      'The shape’s name. It keeps all attributes; the graph stays as it is.',
      'Freeze',
      {
        inputValue: named,
        inputPattern: /\S/,
        inputErrorMessage: 'Give it a name.',
        confirmButtonText: 'Freeze',
        cancelButtonText: 'Cancel',
      },
    ).catch(() => null)
    const name = ((answer as { value?: string } | null)?.value ?? '').trim()
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

  return { shaping, dropping, upload, freeze }
}
