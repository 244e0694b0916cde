<script setup lang="ts">
/** What will be kept of files before they are read, what is missing, and what can be chosen. */
import { ElButton, ElCheckbox, ElDialog, ElInputNumber } from 'element-plus'
import { computed, reactive } from 'vue'
import { count } from '../shared/numbers'
import type { Arrival } from './arrivals'

const props = defineProps<{ arrivals: Arrival[] }>()
const emit = defineEmits<{ close: []; read: [errors: Record<string, number>, atOnce: boolean] }>()

/** How far lines may be from bows, mm, by the file's name; 0: a thousandth of the drawing. */
const errors = reactive<Record<string, number>>({})
const silent = reactive({ on: false })
const readable = computed(() => props.arrivals.filter((one) => one.isPackage || one.format))
const size = (file: File) => `${count(Math.max(1, Math.round(file.size / 1024)))} kB`
const isMesh = ({ file }: Arrival) => /\.gltf$/i.test(file.name)

function read() {
  const inMetres = Object.entries(errors).map(([name, millimetres]) => [name, (millimetres || 0) / 1000])
  emit('read', Object.fromEntries(inMetres) as Record<string, number>, silent.on)
}
</script>

<template>
  <ElDialog
    :model-value="arrivals.length > 0"
    :title="arrivals.length === 1 ? `Read ‘${arrivals[0]!.file.name}’` : `Read ${arrivals.length} files`"
    width="min(560px, 92vw)"
    @close="emit('close')"
  >
    <ul class="arrivals" data-test="arrivals" data-help="formats.html">
      <li v-for="one in arrivals" :key="one.file.name">
        <div class="head">
          <b>{{ one.file.name }}</b>
          <span class="faint">
            {{ one.isPackage ? 'package' : (one.format?.name ?? 'unknown') }}, {{ size(one.file) }}
          </span>
        </div>
        <p v-if="one.parts.length" class="small">Comes with {{ one.parts.join(', ') }}.</p>
        <p v-if="one.missing.length" class="small warn">
          Names {{ one.missing.join(', ') }}, which {{ one.missing.length > 1 ? 'are' : 'is' }} not here;
          {{
            isMesh(one) ? 'it cannot be read without: drop them together.' : 'colours of its materials will be missing.'
          }}
        </p>
        <p v-if="one.isPackage" class="small faint">Is looked through first; you choose what is taken from it.</p>
        <p v-else-if="one.format" class="small faint">Kept: {{ one.format.keeps }}.</p>
        <p v-else class="small bad">No format has this ending; it is left out.</p>
        <p v-if="one.format && !one.format.written" class="small faint">
          Becomes a sheet by <i>read picture</i>; formulas can ask it.
        </p>
        <div v-if="one.format?.tolerance" class="error">
          <label :for="`error-${one.file.name}`">Lines within</label>
          <ElInputNumber
            :id="`error-${one.file.name}`"
            v-model="errors[one.file.name]"
            :min="0"
            :step="0.1"
            :controls="false"
            placeholder="0"
            size="small"
            data-test="read-error"
          />
          <span>mm of its bows <span class="faint">(0: a thousandth of its size)</span></span>
        </div>
      </li>
    </ul>
    <ElCheckbox v-model="silent.on" data-test="read-silent">Read at once from now on</ElCheckbox>
    <div class="faint small">Shapes of this project has a switch that asks again.</div>
    <template #footer>
      <ElButton @click="emit('close')">Cancel</ElButton>
      <ElButton type="primary" :disabled="!readable.length" data-test="read-files" @click="read">
        {{ readable.length > 1 ? `Read ${readable.length} files` : 'Read' }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.arrivals {
  list-style: none;
  margin: 0 0 12px;
  padding: 0;
  max-height: 46vh;
  overflow: auto;
}
li {
  padding: 8px 2px;
  border-bottom: 1px solid var(--line);
}
.head {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 2px 12px;
  overflow-wrap: anywhere;
}
.small {
  margin: 2px 0 0;
  font-size: 13px;
}
.warn {
  color: var(--warn);
}
.bad {
  color: var(--bad);
}
.error {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  margin-top: 6px;
  font-size: 13px;
}
.error :deep(.el-input-number) {
  width: 90px;
}
</style>
