<script setup lang="ts">
/** The shapes of the project: upload, use, delete. */
import { ElDialog, ElMessageBox } from 'element-plus'
import { ref } from 'vue'
import type { AssetState } from '../api/client'
import { count } from '../shared/numbers'
import { useProject } from '../stores/useProject'

defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: []; use: [name: string]; upload: [files: FileList] }>()
const project = useProject()
const picker = ref<HTMLInputElement>()

function counts(shape: AssetState): string {
  const found = (shape.summary.counts ?? {}) as Record<string, number>
  return ['points', 'faces', 'curves']
    .filter((kind) => found[kind])
    .map((kind) => `${count(found[kind]!)} ${kind}`)
    .join(', ')
}

function names(shape: AssetState): string {
  const found = (shape.summary.attributes ?? {}) as Record<string, { name: string }[]>
  return (
    Object.entries(found)
      .flatMap(([kind, list]) => list.filter((a) => a.name !== 'position').map((a) => `${a.name} (${kind})`))
      .join(', ') || 'none'
  )
}

async function drop(shape: AssetState) {
  const sure = await ElMessageBox.confirm(
    `Graphs that use ‘${shape.name}’ will say that it is missing.`,
    `Delete ‘${shape.name}’?`,
    { confirmButtonText: 'Delete', cancelButtonText: 'Keep' },
  ).catch(() => null)
  if (sure) await project.dropShape(shape.id)
}
</script>

<template>
  <ElDialog :model-value="open" title="Shapes of this project" width="min(680px, 92vw)" @close="emit('close')">
    <p class="faint">Mesh files: OBJ, PLY or STL. Drop them anywhere on the page, or</p>
    <input
      ref="picker"
      type="file"
      accept=".obj,.ply,.stl"
      multiple
      hidden
      data-test="upload-input"
      @change="
        emit('upload', ($event.target as HTMLInputElement).files!)
        ;($event.target as HTMLInputElement).value = ''
      "
    />
    <button class="plain boxed" data-test="upload" @click="picker?.click()">Choose files…</button>
    <table v-if="project.shapes.value.length">
      <thead>
        <tr>
          <th>Name</th>
          <th>Holds</th>
          <th>Attributes</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="shape in project.shapes.value" :key="shape.id">
          <td>
            <b>{{ shape.name }}</b>
            <div class="faint small">{{ shape.file_name }}, {{ count(Math.ceil(shape.size / 1024)) }} kB</div>
          </td>
          <td>{{ counts(shape) }}</td>
          <td>{{ names(shape) }}</td>
          <td class="buttons">
            <button class="plain boxed" @click="emit('use', shape.name)">Use</button>
            <a class="plain boxed" :href="`/api/assets/${shape.id}/content`" download>Fetch</a>
            <button class="plain boxed" @click="drop(shape)">Delete</button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="faint">There are none yet.</p>
  </ElDialog>
</template>

<style scoped>
table {
  width: 100%;
  margin-top: 12px;
  border-collapse: collapse;
}
th,
td {
  padding: 6px 8px 6px 0;
  border-bottom: 1px solid var(--line);
  text-align: left;
  vertical-align: top;
}
.small {
  font-size: 12px;
}
.buttons {
  display: flex;
  gap: 5px;
}
a {
  color: inherit;
  text-decoration: none;
}
</style>
