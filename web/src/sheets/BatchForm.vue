<script setup lang="ts">
/** A batch: over which shapes and which rows of a table all is made, and whether the results are kept as files. */
import { ElButton, ElOption, ElSelect, ElUpload } from 'element-plus'
import { computed, ref } from 'vue'
import { isTable, placesOf, shapeList, type Batch } from '../model/batches'
import Choice from '../shared/controls/Choice.vue'
import { useCatalogue, written } from '../stores/useCatalogue'
import { useGraph } from '../stores/useGraph'
import { useProject } from '../stores/useProject'

const props = defineProps<{
  /** Columns of the table that set something, and those that do not. */
  sets: readonly string[]
  kept: readonly string[]
  /** What is kept of each is settled. */
  settled: boolean
}>()
const batch = defineModel<Batch>({ required: true })
const graph = useGraph()
const project = useProject()
const catalogue = useCatalogue()
const trouble = ref('')
const places = computed(() => placesOf(graph.root.value, catalogue.operatorOf))
const shapes = computed(() => project.shapes.value.filter((one) => !isTable(one)).map((one) => one.name))
const tables = computed(() => [
  { value: '', label: 'no table' },
  ...project.shapes.value.filter(isTable).map(({ name }) => ({ value: name, label: name })),
])
const endings = computed(() => [
  { value: '', label: 'no files', help: 'pictures and numbers alone' },
  ...written(catalogue.catalogue.formats).map(([value, format]) => ({
    value,
    label: `${format.name} (.${value})`,
    help: `keeps ${format.keeps}`,
  })),
])
const set = (change: Partial<Batch>) => (batch.value = { ...batch.value, ...change })
const choose = (place: string, names: string[]) => set({ shapes: { ...batch.value.shapes, [place]: names } })
async function upload(file: File) {
  try {
    trouble.value = ''
    set({ table: (await project.upload(file)).name })
  } catch (error) {
    trouble.value = error instanceof Error ? error.message : String(error)
  }
}
const told = computed(() =>
  [
    props.sets.length ? `Each row sets ${props.sets.join(', ')}` : 'No column is called as a dial, an input or a shape',
    props.kept.length ? `keeps ${props.kept.join(', ')} beside the result` : '',
  ]
    .filter(Boolean)
    .join('; '),
)
</script>

<template>
  <h4>Over many inputs</h4>
  <div v-for="place in places" :key="place.name" class="row">
    <span class="name" :title="place.name">{{ place.label }}</span>
    <ElSelect
      class="wide"
      multiple
      filterable
      :model-value="batch.shapes[place.name] ?? []"
      :aria-label="`Shapes for ${place.label}`"
      placeholder="stays as it is; or choose shapes, each is made"
      no-match-text="none of that name"
      no-data-text="the project has no shapes"
      :data-test="`shapes-${place.name}`"
      @update:model-value="choose(place.name, $event as string[])"
    >
      <ElOption v-for="name in shapes" :key="name" :value="name" :label="name" />
    </ElSelect>
    <ElButton v-if="shapes.length > 1" text @click="choose(place.name, shapes)">all</ElButton>
  </div>
  <div class="row">
    <span class="name" title="a row of it for each result">table</span>
    <Choice
      class="wide"
      :value="batch.table"
      :entries="tables"
      label="Table"
      data-test="batch-table"
      @choose="set({ table: $event })"
    />
    <ElUpload
      accept=".csv,.parquet"
      :auto-upload="false"
      :show-file-list="false"
      data-test="batch-file"
      :on-change="(file) => file.raw && upload(file.raw)"
      ><span class="link" :title="`a column for each dial, node.parameter, input, or 'name': ${shapeList(shapes)}`"
        >a file …</span
      ></ElUpload
    >
  </div>
  <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
  <p v-else-if="batch.table && (sets.length || kept.length)" class="faint told" data-test="batch-columns">
    {{ told }}.
  </p>
  <div v-if="!settled" class="row">
    <span class="name" title="the results themselves, beside pictures and numbers">keep of each</span>
    <Choice
      class="wide"
      :value="batch.ending"
      :entries="endings"
      label="What is kept of each result"
      data-test="batch-ending"
      @choose="set({ ending: $event })"
    />
  </div>
</template>

<style scoped>
h4 {
  margin: 12px 0 6px;
}
.row {
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr) auto;
  align-items: center;
  gap: 8px;
  min-height: 34px;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.wide {
  width: 100%;
}
.wide:last-child {
  grid-column: 2 / span 2;
}
.told {
  margin: 0 0 4px 138px;
}
.link {
  color: var(--accent);
  text-decoration: underline;
}
.trouble {
  color: var(--bad);
}
</style>
