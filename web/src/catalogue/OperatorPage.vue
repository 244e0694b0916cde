<script setup lang="ts">
/** The page of one operator: picture, help, dials, what goes in and out, what it promises, its releases. */
import Choice from '../shared/controls/Choice.vue'
import { ElButton, ElMessage, ElTable, ElTableColumn } from 'element-plus'
import { computed, nextTick, ref, watch } from 'vue'
import type { OperatorState } from '../api/client'
import { toText } from '../model/values/formula'
import { toHtml } from '../shared/markup'
import { useCatalogue } from '../stores/useCatalogue'
import { tell } from '../stores/useChanges'
import { useHelp } from '../stores/insight/useHelp'
import { usePackages } from '../stores/usePackages'
import { useExample } from './useExample'

const props = defineProps<{ operator: OperatorState }>()
const emit = defineEmits<{ add: [operator: string]; choose: [operator: string]; inserted: [] }>()
const published = computed(() => props.operator.published)
const { operator: known } = useCatalogue()
const help = useHelp()
const related = computed(() => props.operator.related.flatMap((name) => known(name) ?? []))
const { example, trouble, insert } = useExample(() => props.operator)

/** The parameter that help was asked for is shown, as soon as what stands above it is there. */
const table = ref<HTMLElement>()
watch(
  [help.parameter, () => props.operator.name, example],
  async () => {
    await nextTick()
    await new Promise(requestAnimationFrame)
    table.value?.querySelector('.meant')?.scrollIntoView({ block: 'center' })
  },
  { immediate: true },
)
const rowClass = ({ row }: { row: { name: string } }) => (row.name === help.parameter.value ? 'meant' : '')

async function send() {
  try {
    await usePackages().send(props.operator.name)
    ElMessage({ type: 'success', message: `${props.operator.label} ${published.value?.release} is in the depot.` })
  } catch (error) {
    tell(error)
  }
}
</script>

<template>
  <article
    class="page"
    :aria-label="operator.label"
    data-test="operator-page"
    :data-help="published ? 'own_operators.html' : `operators/${operator.name}.html`"
  >
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
      <img
        v-else-if="!published"
        :src="`/docs/operators/pictures/${operator.name}.webp`"
        :alt="`What the example of ${operator.label} makes`"
        data-test="example-picture"
      />
      <div>
        <p class="summary">{{ operator.summary }}{{ /[.!?]$/.test(operator.summary) ? '' : '.' }}</p>
        <!-- eslint-disable-next-line vue/no-v-html -- markup() lets no HTML, links or pictures through -->
        <div class="help" v-html="toHtml(operator.description)" />
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
    <section v-if="example" class="example" aria-label="Example">
      <h3>Example</h3>
      <ElButton
        data-test="insert-example"
        :title="'Its cards are put into the open graph'"
        @click="insert().then((done) => done && emit('inserted'))"
      >
        Put it into the graph
      </ElButton>
      <pre class="mono" data-test="example">{{ example.text }}</pre>
    </section>
    <p v-if="trouble" class="faint" role="status">{{ trouble }}</p>
    <p v-if="related.length" class="related">
      <span class="faint">Related:</span>
      <ElButton
        v-for="other in related"
        :key="other.name"
        text
        :title="other.summary"
        :data-test="`related-${other.name}`"
        @click="emit('choose', other.name)"
        >{{ other.label }}</ElButton
      >
    </p>
    <div ref="table">
      <ElTable
        v-if="operator.parameters.length"
        class="parameters"
        :data="operator.parameters"
        :row-class-name="rowClass"
      >
        <ElTableColumn prop="label" :label="published ? 'Dial' : 'Parameter'" width="150" />
        <ElTableColumn v-slot="{ row }" label="Default" width="150"
          ><span class="mono">{{ toText(row.default) || 'empty' }} {{ row.unit }}</span></ElTableColumn
        >
        <ElTableColumn v-slot="{ row }" label="What it does"
          >{{ row.help }}<span v-if="row.section" class="faint"> ({{ row.section }})</span></ElTableColumn
        >
      </ElTable>
    </div>
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
.help :deep(p),
.help :deep(ul) {
  margin: 0 0 6px;
}
.help :deep(code) {
  font: 13px var(--mono);
}
.example {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  margin-top: 10px;
}
.example h3 {
  margin: 0;
  font-size: 15px;
}
.example pre {
  flex: 1 0 100%;
  margin: 0;
  padding: 8px 10px;
  overflow: auto;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--raised);
}
.related {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px;
  margin: 8px 0 0;
}
.parameters :deep(.meant) {
  --el-table-tr-bg-color: var(--live-wash);
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
