<script setup lang="ts">
/** The page of one operator: picture, help, dials, what goes in and out, what it promises, its releases. */
import Choice from '../shared/controls/Choice.vue'
import { ElButton, ElMessage, ElTable, ElTableColumn } from 'element-plus'
import { computed } from 'vue'
import { api, type OperatorState } from '../api/client'
import { toText } from '../model/values/formula'
import { tell } from '../stores/useChanges'

const props = defineProps<{ operator: OperatorState }>()
const emit = defineEmits<{ add: [operator: string]; choose: [operator: string] }>()
const published = computed(() => props.operator.published)
const paragraphs = computed(() => props.operator.description.split(/\n\s*\n/).filter((part) => part.trim()))

async function send() {
  try {
    await api.sendToDepot(props.operator.name)
    ElMessage({ type: 'success', message: `${props.operator.label} ${published.value?.release} is in the depot.` })
  } catch (error) {
    tell(error)
  }
}
</script>

<template>
  <article class="page" :aria-label="operator.label" data-test="operator-page">
    <header>
      <h2>{{ operator.label }}</h2>
      <Choice
        v-if="published"
        class="release"
        :value="operator.name"
        :entries="
          [...published.releases]
            .reverse()
            .map((release) => ({ value: `${published!.name}@${release}`, label: release }))
        "
        label="Release"
        data-test="page-release"
        @choose="emit('choose', $event)"
      />
      <span class="gap" />
      <ElButton type="primary" data-test="add-from-catalogue" @click="emit('add', operator.name)">
        Add to the graph
      </ElButton>
      <template v-if="published">
        <ElButton tag="a" :href="`/api/library/${operator.name}/package`" download data-test="download-package"
          >Package</ElButton
        >
        <ElButton data-test="send-to-depot" @click="send">Send to the depot</ElButton>
      </template>
    </header>
    <div class="top">
      <img
        v-if="published?.picture"
        :src="`/api/library/${operator.name}/picture`"
        :alt="`Picture of ${operator.label}`"
      />
      <div>
        <p class="summary">{{ operator.summary }}{{ /[.!?]$/.test(operator.summary) ? '' : '.' }}</p>
        <p v-for="part in paragraphs" :key="part" class="help">{{ part }}</p>
        <p v-if="operator.keywords.length" class="faint">
          {{ published ? 'Tags' : 'Also found as' }}: {{ operator.keywords.join(', ') }}
        </p>
        <p v-if="published" class="faint">
          {{ published.name }} {{ published.release }}, {{ published.origin }}.<template v-if="published.changes">
            New in it: {{ published.changes }}</template
          >
        </p>
      </div>
    </div>
    <ElTable v-if="operator.parameters.length" class="parameters" :data="operator.parameters">
      <ElTableColumn prop="label" :label="published ? 'Dial' : 'Parameter'" width="150" />
      <ElTableColumn v-slot="{ row }" label="Default" width="150"
        ><span class="mono">{{ toText(row.default) || 'empty' }} {{ row.unit }}</span></ElTableColumn
      >
      <ElTableColumn v-slot="{ row }" label="What it does"
        >{{ row.help }}<span v-if="row.section" class="faint"> ({{ row.section }})</span></ElTableColumn
      >
    </ElTable>
    <dl>
      <template v-for="input in operator.inputs" :key="`in ${input.name}`"
        ><dt>in: {{ input.name }}</dt>
        <dd>{{ input.help || 'a geometry' }}{{ input.optional ? ' (may stay empty)' : '' }}</dd></template
      >
      <template v-for="output in operator.makes_value ? [] : operator.outputs" :key="`out ${output.name}`"
        ><dt>out: {{ output.name }}</dt>
        <dd>{{ output.help || 'the result' }}</dd></template
      >
      <template v-if="published?.promises.length"
        ><dt>promises</dt>
        <dd>{{ published.promises.join('; ') }}</dd></template
      >
      <template v-if="published && Object.keys(published.presets).length"
        ><dt>presets</dt>
        <dd>{{ Object.keys(published.presets).join(', ') }}</dd></template
      >
      <template v-if="published"
        ><dt>examples</dt>
        <dd>{{ published.examples.join('; ') || 'none' }}</dd></template
      >
      <dt>attributes</dt>
      <dd>{{ operator.carries }}</dd>
    </dl>
  </article>
</template>

<style scoped>
.page {
  overflow: auto;
  padding-right: 6px;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
h2 {
  margin: 0;
  font-size: 20px;
}
.gap {
  flex: 1;
}
.top {
  display: flex;
  gap: 16px;
  margin-top: 10px;
}
img {
  width: 300px;
  height: 188px;
  border: 1px solid var(--line);
  border-radius: 6px;
  object-fit: cover;
}
.top p {
  margin: 0 0 6px;
}
.summary {
  font-size: 15px;
}
.help {
  white-space: pre-line;
}
.parameters {
  margin-top: 10px;
}
.release {
  width: 96px;
}
dl {
  display: grid;
  grid-template-columns: 120px 1fr;
  gap: 3px 10px;
  margin: 12px 0 0;
  font-size: 13.5px;
}
dt {
  color: var(--faint-ink);
}
dd {
  margin: 0;
}
</style>
