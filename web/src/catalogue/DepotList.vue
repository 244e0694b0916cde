<script setup lang="ts">
/** What the depot has; if it does not answer, that is said and nothing else suffers. */
import { ElButton, ElEmpty, ElSkeleton, ElTable, ElTableColumn } from 'element-plus'
import { ref, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { count } from '../shared/numbers'
import { useCatalogue } from '../stores/useCatalogue'
import { usePackages } from '../stores/usePackages'

const emit = defineEmits<{ fetch: [operator: string] }>()
const state = ref<Schemas['DepotState'] | null>(null)
const trouble = ref('')
const { catalogue } = useCatalogue()

/** Whether an older release of it is in the catalogue. */
function updates(operator: string): boolean {
  const [name, release] = operator.split('@')
  const here = catalogue.operators.find((entry) => entry.published?.name === name)?.published?.releases.at(-1)
  const order = (text: string) => text.split('.').reduce((sum, part) => sum * 100_000 + Number(part), 0)
  return !!here && order(release!) > order(here)
}

async function load() {
  try {
    state.value = await api.depot()
    trouble.value = state.value.message
  } catch (error) {
    trouble.value = error instanceof Error ? error.message : String(error)
  }
}
watch(usePackages().sent, load, { immediate: true })
</script>

<template>
  <section class="depot" aria-label="Depot" data-help="own_operators.html#packages">
    <p class="faint">Packages that others put here, and that you sent. <ElButton @click="load">Look again</ElButton></p>
    <p v-if="trouble" class="bad" role="alert" data-test="depot-trouble">{{ trouble }}</p>
    <ElTable v-else-if="state?.packages.length" :data="state.packages">
      <ElTableColumn v-slot="{ row }" label="Operator" min-width="170"
        ><b>{{ row.title }}</b> <span class="faint">{{ row.operator }}</span></ElTableColumn
      >
      <ElTableColumn prop="summary" label="What it does" min-width="260" />
      <ElTableColumn v-slot="{ row }" label="Signed by" min-width="110"
        ><span :title="row.fingerprint ? `Key ${row.fingerprint}` : ''">{{ row.publisher || 'nobody' }}</span>
      </ElTableColumn>
      <ElTableColumn v-slot="{ row }" label="Size" width="90" align="right"
        ><span class="mono">{{ count(Math.ceil(row.size / 1024)) }} kB</span></ElTableColumn
      >
      <ElTableColumn v-slot="{ row }" width="130" align="right">
        <span v-if="row.here" class="faint">in the catalogue</span>
        <ElButton v-else :data-test="`fetch-${row.operator}`" @click="emit('fetch', row.operator)">
          {{ updates(row.operator) ? 'Update…' : 'Fetch…' }}
        </ElButton>
      </ElTableColumn>
    </ElTable>
    <ElEmpty v-else-if="state" description="The depot is empty. Send an operator to it from its page." />
    <ElSkeleton v-else :rows="4" animated />
  </section>
</template>

<style scoped>
.depot {
  min-height: 50vh;
}
.bad {
  color: var(--bad);
}
</style>
