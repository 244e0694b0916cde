<script setup lang="ts">
/** All operators, built in and published, with a page on each; and the depot, where packages are shared. */
import { ElButton, ElDialog, ElInput, ElSegmented, ElUpload } from 'element-plus'
import { computed, ref, watch } from 'vue'
import { fit } from '../model/actions'
import DepotList from './DepotList.vue'
import OperatorPage from './OperatorPage.vue'
import { useCatalogue } from '../stores/useCatalogue'

const props = defineProps<{ open: boolean; first?: string }>()
const emit = defineEmits<{ close: []; add: [operator: string]; packages: [file: File]; fetch: [operator: string] }>()
const { catalogue } = useCatalogue()
const words = ref('')
const chosen = ref('')
const tab = ref<'operators' | 'depot'>('operators')
/** After something was published or imported, its page is shown. */
watch(
  () => props.first,
  (first) => {
    if (!first) return
    chosen.value = first
    tab.value = 'operators'
  },
  { immediate: true },
)

/** Of published operators only the newest release is listed; its page leads to the others. */
const listed = computed(() =>
  catalogue.operators
    .filter((entry) => !entry.published || entry.published.release === entry.published.releases.at(-1))
    .map((entry) => ({
      entry,
      score: fit(words.value, entry.label, `${entry.summary} ${entry.keywords.join(' ')} ${entry.family}`),
    }))
    .filter(({ score }) => score > 0)
    .map(({ entry }) => entry),
)
const families = computed(() => {
  const found = new Map<string, typeof listed.value>()
  const published = listed.value.filter((entry) => entry.published)
  if (published.length) found.set('published', published)
  for (const entry of listed.value)
    if (!entry.published) found.set(entry.family, [...(found.get(entry.family) ?? []), entry])
  return [...found]
})
const page = computed(
  () =>
    catalogue.operators.find((entry) => entry.name === chosen.value) ??
    listed.value.find((entry) => entry.published) ??
    listed.value[0],
)
</script>

<template>
  <ElDialog :model-value="open" width="min(1040px, 94vw)" top="6vh" class="catalogue" @close="emit('close')">
    <template #header>
      <div class="head">
        <b>Catalogue</b>
        <ElSegmented
          v-model="tab"
          :options="[
            { label: 'Operators', value: 'operators' },
            { label: 'Depot', value: 'depot' },
          ]"
          aria-label="Where from"
        />
        <ElInput
          v-if="tab === 'operators'"
          v-model="words"
          class="grow"
          clearable
          placeholder="Name, tag or what it does"
          aria-label="Search the catalogue"
          data-test="search-catalogue"
        />
        <span v-else class="grow" />
        <ElUpload
          accept=".zip"
          :auto-upload="false"
          :show-file-list="false"
          data-test="package"
          :on-change="(file) => file.raw && emit('packages', file.raw)"
        >
          <ElButton tag="span" data-test="import-package">Import a package…</ElButton>
        </ElUpload>
      </div>
    </template>
    <DepotList v-if="tab === 'depot'" @fetch="emit('fetch', $event)" />
    <div v-else class="columns">
      <nav aria-label="Operators">
        <template v-for="[family, entries] in families" :key="family">
          <h4>{{ family }}</h4>
          <ElButton
            v-for="entry in entries"
            :key="entry.name"
            class="item"
            text
            :aria-pressed="entry.name === page?.name"
            :data-test="`catalogue-${entry.name}`"
            @click="chosen = entry.name"
          >
            {{ entry.label }} <span v-if="entry.published" class="faint">{{ entry.published.release }}</span>
          </ElButton>
        </template>
        <p v-if="!families.length" class="faint">Nothing fits. Try another word for it.</p>
      </nav>
      <OperatorPage
        v-if="page"
        :key="page.name"
        :operator="page"
        @add="emit('add', $event)"
        @choose="chosen = $event"
        @inserted="emit('close')"
      />
    </div>
  </ElDialog>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  gap: 8px;
  padding-right: 24px;
}
.head b {
  font-size: 17px;
}
.grow {
  flex: 1;
}
.columns {
  display: grid;
  grid-template-columns: 236px minmax(0, 1fr);
  gap: 18px;
  height: 66vh;
}
nav {
  overflow: auto;
  border-right: 1px solid var(--line);
}
h4 {
  margin: 9px 0 2px;
  color: var(--faint-ink);
  font-size: 12.5px;
}
.item {
  display: flex;
  justify-content: flex-start;
  width: 100%;
  min-height: 25px;
  overflow: hidden;
}
</style>
