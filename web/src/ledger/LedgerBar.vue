<script setup lang="ts">
/** What the ledger lists: the element kind, a filter, more columns, statistics, and how many rows there are. */
import { ElButton, ElInput } from 'element-plus'
import { computed } from 'vue'
import { KINDS, type Kind } from '../api/results'
import KindGlyph from '../shared/KindGlyph.vue'
import { count } from '../shared/numbers'
import { useSelection } from '../stores/useSelection'

const kind = defineModel<Kind>('kind', { required: true })
const where = defineModel<string>('where', { required: true })
const told = defineModel<boolean>('told', { required: true })
const charted = defineModel<boolean>('charted', { required: true })
const props = defineProps<{
  counts: Record<string, number>
  total: number
  trouble: string
  hides: boolean
  script?: string | null
}>()
const emit = defineEmits<{ script: [node: string]; add: []; all: []; copy: [] }>()
const selection = useSelection()

/** Kinds that most meshes have none of are offered only where there are some. */
const offered = computed(() =>
  KINDS.filter((entry) => entry === kind.value || !['curve', 'instance'].includes(entry) || props.counts[`${entry}s`]),
)
</script>

<template>
  <div class="bar">
    <div class="tabs" role="tablist" aria-label="Element kind">
      <ElButton
        v-for="entry in offered"
        :key="entry"
        text
        role="tab"
        :aria-selected="kind === entry"
        :title="entry === 'whole' ? 'The shape as one: values that belong to all of it' : `A row for each ${entry}`"
        :data-test="`ledger-${entry}`"
        @click="kind = entry"
      >
        <KindGlyph :kind="entry" />{{ entry === 'whole' ? 'whole' : `${entry}s` }}
        <span v-if="entry !== 'whole'" class="faint mono">{{ count(counts[`${entry}s`] ?? 0) }}</span>
      </ElButton>
    </div>
    <ElButton
      v-if="script"
      title="Show the text of the chosen script here"
      data-test="show-script"
      @click="emit('script', script)"
    >
      Script
    </ElButton>
    <label class="filter"
      ><span class="faint">where</span
      ><ElInput
        v-model="where"
        class="mono"
        clearable
        placeholder="formula, e.g. area > 0.001"
        aria-label="Filter by formula"
        data-test="ledger-where"
        spellcheck="false"
    /></label>
    <ElButton text title="A new attribute for each element, as a card" data-test="add-column" @click="emit('add')">
      + column
    </ElButton>
    <ElButton v-if="hides" text title="Show all columns again" @click="emit('all')">all columns</ElButton>
    <ElButton
      text
      :aria-pressed="told"
      title="How the values of each column are spread, over the rows that are listed"
      data-test="statistics"
      @click="told = !told"
    >
      statistics
    </ElButton>
    <ElButton
      text
      :aria-pressed="charted"
      title="Charts of these values; what is brushed in them is selected"
      data-test="show-charts"
      @click="charted = !charted"
    >
      charts
    </ElButton>
    <ElButton text title="Copy these rows as CSV" data-test="copy-csv" @click="emit('copy')">CSV</ElButton>
    <span class="faint status" role="status">
      <template v-if="trouble"
        ><span class="bad">{{ trouble }}</span></template
      >
      <template v-else
        >{{ count(total) }} rows<template v-if="selection.chosen.value.size"
          >, {{ count(selection.chosen.value.size) }} selected</template
        ></template
      >
    </span>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 10px;
  padding: 3px 8px;
  border-bottom: 1px solid var(--line);
  font-size: 13px;
}
.tabs {
  display: flex;
  flex-wrap: wrap;
}
.tabs .el-button {
  padding: 2px 7px;
}
.filter {
  display: inline-flex;
  align-items: center;
  gap: 5px;
  flex: 1 1 250px;
}
.status {
  margin-left: auto;
}
.bad {
  color: var(--bad);
}
</style>
