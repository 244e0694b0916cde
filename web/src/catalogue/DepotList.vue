<script setup lang="ts">
/** What the depot has; if it does not answer, that is said and nothing else suffers. */
import { ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { count } from '../shared/numbers'
import { useCatalogue } from '../stores/useCatalogue'

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
void load()
</script>

<template>
  <section class="depot" aria-label="Depot">
    <p class="faint">
      Packages that others put here, and that you sent. <button class="plain boxed" @click="load">Look again</button>
    </p>
    <p v-if="trouble" class="bad" role="alert" data-test="depot-trouble">{{ trouble }}</p>
    <table v-else-if="state?.packages.length">
      <thead>
        <tr>
          <th>Operator</th>
          <th>What it does</th>
          <th>Signed by</th>
          <th>Size</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="entry in state.packages" :key="entry.operator">
          <td>
            <b>{{ entry.title }}</b> <span class="faint">{{ entry.operator }}</span>
          </td>
          <td>{{ entry.summary }}</td>
          <td :title="entry.fingerprint ? `Key ${entry.fingerprint}` : ''">{{ entry.publisher || 'nobody' }}</td>
          <td class="mono">{{ count(Math.ceil(entry.size / 1024)) }} kB</td>
          <td>
            <span v-if="entry.here" class="faint">in the catalogue</span
            ><button
              v-else
              class="plain boxed"
              :data-test="`fetch-${entry.operator}`"
              @click="emit('fetch', entry.operator)"
            >
              {{ updates(entry.operator) ? 'Update…' : 'Fetch…' }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="state" class="faint">The depot is empty. Send an operator to it from its page.</p>
  </section>
</template>

<style scoped>
.depot {
  min-height: 50vh;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 5px 10px 5px 0;
  border-bottom: 1px solid var(--line);
  text-align: left;
}
.bad {
  color: var(--bad);
}
</style>
