<script setup lang="ts">
/** The shapes of the project: upload, use, delete. */
import {
  ElButton,
  ElCheckbox,
  ElCollapse,
  ElCollapseItem,
  ElDialog,
  ElEmpty,
  ElMessageBox,
  ElTable,
  ElTableColumn,
  ElUpload,
} from 'element-plus'
import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'
import type { AssetState } from '../api/client'
import { count } from '../shared/numbers'
import { useCatalogue } from '../stores/useCatalogue'
import { useProject } from '../stores/useProject'

defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: []; use: [name: string]; upload: [files: File[]] }>()
const project = useProject()
const known = computed(() => useCatalogue().catalogue.formats)
const accepted = computed(() => [...Object.keys(known.value), 'bin', 'mtl'].map((ending) => `.${ending}`).join(','))
const atOnce = useLocalStorage('reticula reads at once', false)
const asking = computed({ get: () => !atOnce.value, set: (on) => (atOnce.value = !on) })
/** Files that are chosen or dropped together come one by one within a moment: they may be parts of each other. */
let waiting: File[] = []
function gather(file: { raw?: File }) {
  if (!file.raw) return
  waiting.push(file.raw)
  if (waiting.length > 1) return
  setTimeout(() => {
    emit('upload', waiting)
    waiting = []
  })
}

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
    <ElUpload
      data-help="formats.html"
      drag
      multiple
      :accept="accepted"
      :auto-upload="false"
      :show-file-list="false"
      data-test="upload"
      :on-change="gather"
    >
      Drop files here or anywhere on the page, or click to choose some. A glTF may bring its parts along, an OBJ its
      materials.
    </ElUpload>
    <ElCheckbox v-model="asking" data-test="asking">Show what will be kept before reading</ElCheckbox>
    <ElCollapse class="formats">
      <ElCollapseItem title="What is read, and what is kept of it" name="formats">
        <dl>
          <template v-for="(format, ending) in known" :key="ending">
            <dt>
              {{ format.name }} <span class="faint">.{{ ending }}</span>
            </dt>
            <dd class="faint">{{ format.keeps }}</dd>
          </template>
        </dl>
      </ElCollapseItem>
    </ElCollapse>
    <ElTable v-if="project.shapes.value.length" class="list" :data="project.shapes.value">
      <ElTableColumn v-slot="{ row }" label="Name" min-width="150">
        <b>{{ row.name }}</b>
        <div class="faint small">{{ row.file_name }}, {{ count(Math.ceil(row.size / 1024)) }} kB</div>
      </ElTableColumn>
      <ElTableColumn v-slot="{ row }" label="Holds" min-width="130">{{ counts(row as AssetState) }}</ElTableColumn>
      <ElTableColumn v-slot="{ row }" label="Attributes" min-width="120">{{ names(row as AssetState) }}</ElTableColumn>
      <ElTableColumn v-slot="{ row }" width="220" align="right">
        <ElButton @click="emit('use', row.name)">Use</ElButton>
        <ElButton tag="a" :href="`/api/assets/${row.id}/content`" download>Download</ElButton>
        <ElButton @click="drop(row as AssetState)">Delete</ElButton>
      </ElTableColumn>
    </ElTable>
    <ElEmpty v-else :image-size="60" description="There are none yet." />
  </ElDialog>
</template>

<style scoped>
.small {
  font-size: 12px;
}
.list {
  margin-top: 12px;
}
.formats {
  margin-top: 10px;
  font-size: 13px;
}
.formats dl {
  display: grid;
  grid-template-columns: max-content minmax(0, 1fr);
  gap: 3px 14px;
  max-height: 180px;
  margin: 6px 0 0;
  overflow: auto;
}
.formats dd {
  margin: 0;
}
</style>
