<script setup lang="ts">
/** What a card offers that runs a graph: a way in, presets, a newer release, publishing, unfolding. */
import { useKeys } from '../../stores/useKeys'
import Choice from '../../shared/controls/Choice.vue'
import { ElButton } from 'element-plus'
import { computed, inject, ref } from 'vue'
import { api, type OperatorState, type Schemas } from '../../api/client'
import { askName } from '../../shared/askName'
import { useCatalogue } from '../../stores/useCatalogue'
import { startingGraph } from '../../model/document'
import { copiesOf } from '../../model/linked'
import { linkKey } from '../../stores/injectionKeys'
import { useChanges } from '../../stores/useChanges'
import { useGraph } from '../../stores/useGraph'

const { hint } = useKeys()

const props = defineProps<{ id: string; operator: OperatorState }>()
const emit = defineEmits<{ publish: [] }>()
const graph = useGraph()
const changes = useChanges()
const linkCopy = inject(linkKey, () => {})
const { newer } = useCatalogue()

const node = computed(() => graph.document.value.nodes[props.id])
const published = computed(() => props.operator.published)
const presets = computed(
  () =>
    (published.value ? published.value.presets : (node.value?.graph?.presets ?? {})) as Record<
      string,
      Record<string, unknown>
    >,
)
const offered = computed(() => newer(node.value))
const differences = ref<Schemas['DifferenceState'] | null>(null)
const title = computed(() => node.value?.title || props.operator.label)
const copies = computed(() => (node.value?.linked ? copiesOf(graph.root.value, node.value.linked) : 0))
const canLink = computed(() => props.operator.holds_graph && !!node.value?.graph && !graph.fixed.value)
const set = computed(() => Object.keys(node.value?.parameters ?? {}).length)

async function open() {
  if (props.operator.holds_graph && !node.value?.graph)
    graph.edit(`begin the graph inside ${title.value}`, (next) => (next.nodes[props.id]!.graph = startingGraph()))
  await graph.enter(props.id)
}

const offers = computed(() => [
  ...Object.keys(presets.value).map((name) => ({ value: name, label: name })),
  ...(published.value ? [] : [{ value: '+', label: 'Keep these values as a preset …' }]),
])

function take(name: string) {
  if (name === '+') return void keep()
  const values = presets.value[name]
  if (values)
    graph.edit(
      `take the preset ${name}`,
      (next) => (next.nodes[props.id]!.parameters = { ...next.nodes[props.id]!.parameters, ...values }),
    )
}

async function keep() {
  const name = await askName('Keep these values as a preset', 'Keep')
  const dials = Object.keys(node.value?.graph?.dials ?? {})
  if (!name) return
  graph.edit(`keep the preset ${name}`, (next) => {
    const inner = next.nodes[props.id]!.graph!
    const values = Object.fromEntries(
      dials.map((dial) => [dial, next.nodes[props.id]!.parameters?.[dial] ?? inner.dials![dial]!.value]),
    )
    inner.presets = { ...inner.presets, [name]: values }
  })
}

function reset() {
  graph.edit(`reset ${title.value}`, (next) => (next.nodes[props.id]!.parameters = {}))
}

async function compare() {
  if (!published.value || !offered.value) return
  differences.value = await api
    .differences(published.value.name, published.value.release, offered.value)
    .catch(() => null)
}

function leave() {
  const release = offered.value!
  graph.edit(
    `leave ${title.value} as it is`,
    (next) => (next.nodes[props.id]!.left = [...(next.nodes[props.id]!.left ?? []), release]),
  )
}

const update = (beside: boolean) =>
  offered.value !== null &&
  changes.make(beside ? `try ${offered.value} beside` : `take ${offered.value}`, 'update', {
    node: props.id,
    release: offered.value,
    beside,
  })
</script>

<template>
  <div class="nested nodrag">
    <ElButton data-test="open-inside" :title="`Go into the graph that this card runs${hint('Open')}`" @click="open">
      Open
    </ElButton>
    <Choice
      v-if="offers.length"
      class="presets"
      :entries="offers"
      label="Presets"
      hint="presets …"
      data-test="presets"
      @choose="take"
    />
    <ElButton
      text
      :disabled="!set"
      title="All values of this card back to their defaults"
      data-test="reset-card"
      @click="reset"
    >
      Reset
    </ElButton>
    <ElButton
      v-if="node?.operator === 'folded' && !graph.fixed.value"
      text
      title="Put it into the catalogue, to use it elsewhere"
      data-test="publish"
      @click="emit('publish')"
    >
      Publish
    </ElButton>
    <ElButton
      v-if="!operator.holds_graph || node?.operator === 'folded'"
      text
      title="Put the cards inside in place of this one"
      data-test="unfold"
      @click="changes.make(`unfold ${title}`, 'unfold', { node: id })"
    >
      Unfold
    </ElButton>
    <ElButton
      v-if="canLink"
      text
      title="Another card that runs the same graph: what is edited inside of one is edited in both; their values are their own"
      data-test="link-copy"
      @click="linkCopy(id)"
    >
      Linked copy
    </ElButton>
    <template v-if="copies">
      <ElButton
        v-if="canLink"
        text
        title="Give this card a graph of its own"
        data-test="separate"
        @click="changes.make(`separate ${title}`, 'separate', { node: id })"
      >
        Separate
      </ElButton>
      <span class="release faint" data-test="copies">
        {{
          copies > 1 ? `One of ${copies} linked cards: an edit inside is made in all.` : 'Linked, but the only card.'
        }}
      </span>
    </template>
    <div v-if="published" class="release faint" data-test="release">
      {{ published.name.replaceAll('_', ' ') }} {{ published.release }}
    </div>
    <div v-if="offered" class="offer" data-test="offer">
      <b>{{ offered }} is there.</b>
      <ElButton v-if="!differences" class="small" text data-test="differs" @click="compare">What differs?</ElButton>
      <ul v-else>
        <li v-for="line in differences.gone" :key="line" class="bad">gone: {{ line }}</li>
        <li v-for="line in differences.new" :key="line">new: {{ line }}</li>
        <li v-for="line in differences.changed" :key="line">{{ line }}</li>
      </ul>
      <ElButton
        class="small"
        text
        data-test="try-beside"
        title="Put a copy that runs it beside this card"
        @click="update(true)"
      >
        Try beside
      </ElButton>
      <ElButton class="small" text data-test="take-release" @click="update(false)">Take</ElButton>
      <ElButton class="small" text data-test="leave-release" title="Do not offer it again" @click="leave"
        >Leave</ElButton
      >
    </div>
  </div>
</template>

<style scoped>
.nested {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px;
  margin: 4px 0;
  font-size: 13px;
}
.presets {
  width: 104px;
}
.el-button {
  padding: 0 7px;
}
.release {
  flex: 1 1 100%;
  font-size: 12px;
}
.offer {
  flex: 1 1 100%;
  padding: 3px 7px;
  border: 1px solid var(--accent);
  border-radius: 5px;
  background: var(--accent-wash);
}
ul {
  margin: 2px 0;
  padding-left: 18px;
}
.bad {
  color: var(--bad);
}
.small {
  min-height: 24px;
  font-size: 12.5px;
}
</style>
