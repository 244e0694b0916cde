<script setup lang="ts">
/** The edge of a graph: its inputs and outputs with their names, help and order, and what must hold. */
import TextField from '../shared/controls/TextField.vue'
import Choice from '../shared/controls/Choice.vue'
import { ElButton, ElCheckbox, ElDialog } from 'element-plus'
import { computed } from 'vue'
import { freeName, type Port } from '../model/document'
import { useChanges } from '../stores/useChanges'
import { useGraph } from '../stores/useGraph'
import { useCatalogue } from '../stores/useCatalogue'
import ConditionRows from './ConditionRows.vue'

type Side = 'inputs' | 'outputs'
const emit = defineEmits<{ close: [] }>()
const graph = useGraph()
const changes = useChanges()
const { operatorOf } = useCatalogue()

const inputs = computed(() => graph.document.value.inputs ?? [])
const outputs = computed(() => graph.document.value.outputs ?? [])
/** What can feed an output. */
const feeds = computed(() =>
  Object.entries(graph.document.value.nodes).flatMap(([id, node]) => {
    const declared = operatorOf(node)
    if (!declared || declared.makes_value) return []
    return declared.outputs.map((output, number) => ({
      value: number ? `${id}:${output.name}` : id,
      label: `${node.title || id}${declared.outputs.length > 1 ? ` · ${output.name}` : ''}`,
    }))
  }),
)

function set(side: Side, at: number, values: Partial<Port>) {
  graph.edit(`change the ${side}`, (next) => Object.assign(next[side]![at]!, values))
}

async function rename(side: Side, port: string, name: string) {
  if (name.trim() && name.trim() !== port)
    await changes.make(`rename ${port}`, 'rename port', { side, port, name: name.trim() })
}

function move(side: Side, at: number, by: number) {
  graph.edit(`order the ${side}`, (next) => {
    const list = next[side]!
    const [entry] = list.splice(at, 1)
    list.splice(at + by, 0, entry!)
  })
}

function add(side: Side) {
  graph.edit(side === 'inputs' ? 'add an input' : 'add an output', (next) => {
    const list = (next[side] ??= [])
    const name = freeName(
      'geo',
      list.map((entry) => entry.name),
    )
    list.push(
      side === 'inputs'
        ? { name, help: '' }
        : { name, help: '', feed: next.looking_at ?? Object.keys(next.nodes).at(-1) ?? '' },
    )
    if (side === 'inputs')
      next.nodes[freeName(`in_${name}`, Object.keys(next.nodes))] = { operator: 'input', parameters: { name } }
  })
}

function drop(side: Side, at: number) {
  graph.edit(side === 'inputs' ? 'remove an input' : 'remove an output', (next) => next[side]!.splice(at, 1))
}
</script>

<template>
  <ElDialog
    model-value
    data-help="own_operators.html#publish"
    title="Edge of this graph"
    width="720"
    append-to-body
    @close="emit('close')"
  >
    <p class="faint">
      What goes in and comes out where this graph is used as an operator: folded, in a loop, or published.
    </p>
    <template v-for="side in ['inputs', 'outputs'] as const" :key="side">
      <h3>{{ side === 'inputs' ? 'Inputs' : 'Outputs' }}</h3>
      <div
        v-for="(port, at) in side === 'inputs' ? inputs : outputs"
        :key="port.name"
        class="port"
        :data-test="`${side}-${port.name}`"
      >
        <TextField
          class="mono name"
          :value="port.name"
          label="Name"
          data-test="port-name"
          @settle="rename(side, port.name, $event)"
        />
        <Choice
          v-if="side === 'outputs'"
          class="feed"
          :value="port.feed"
          :entries="[{ value: '', label: 'nothing yet' }, ...feeds]"
          label="Comes from"
          data-test="port-feed"
          @choose="set(side, at, { feed: $event })"
        />
        <ElCheckbox
          v-else
          :model-value="port.optional ?? false"
          @change="set(side, at, { optional: $event as boolean })"
          >may stay empty</ElCheckbox
        >
        <TextField
          class="grow"
          :value="port.help"
          label="Help"
          placeholder="what it is for"
          @settle="set(side, at, { help: $event })"
        />
        <ElButton text :disabled="at === 0" aria-label="Further up" title="Further up" @click="move(side, at, -1)">
          ↑
        </ElButton>
        <ElButton
          text
          :disabled="at === (side === 'inputs' ? inputs : outputs).length - 1"
          aria-label="Further down"
          title="Further down"
          @click="move(side, at, 1)"
        >
          ↓
        </ElButton>
        <ElButton text :aria-label="`Remove ${port.name}`" title="Remove" @click="drop(side, at)">×</ElButton>
        <ConditionRows
          v-if="side === 'inputs'"
          class="wide"
          :conditions="port.expects ?? []"
          :inputs="inputs.map((entry) => entry.name)"
          @change="set(side, at, { expects: $event })"
        />
      </div>
      <ElButton :data-test="`add-${side}`" @click="add(side)">
        + {{ side === 'inputs' ? 'input' : 'output' }}
      </ElButton>
    </template>
    <h3>What it promises of its outputs</h3>
    <ConditionRows
      :conditions="graph.document.value.contracts ?? []"
      :inputs="inputs.map((entry) => entry.name)"
      :outputs="outputs.map((entry) => entry.name)"
      @change="graph.edit('change what it promises', (next) => (next.contracts = $event))"
    />
  </ElDialog>
</template>

<style scoped>
h3 {
  margin: 12px 0 5px;
  font-size: 14px;
}
p {
  margin: 0;
}
.port {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 5px;
  margin-bottom: 6px;
}
.name {
  width: 110px;
}
.grow {
  flex: 1;
}
.wide {
  flex: 1 1 100%;
  padding-left: 12px;
}
.port .el-button {
  padding: 0 6px;
}
.feed {
  width: 170px;
}
</style>
