<script setup lang="ts">
/** The dials of the graph that is worked on, and its inputs and outputs where it is an operator. */
import { ElButton, ElMessageBox } from 'element-plus'
import { computed, inject, ref } from 'vue'
import { describeDial } from '../model/nestedOperator'
import { isBound, isWired, type Dial } from '../model/document'
import ParameterField from '../fields/ParameterField.vue'
import { shapesKey } from '../stores/injectionKeys'
import { DRAGGED, type Pair } from '../model/parameterLinks'
import { useChanges } from '../stores/useChanges'
import { useEvaluation } from '../stores/useEvaluation'
import { useGraph } from '../stores/useGraph'
import { useTime } from '../stores/useTime'
import { useSheets } from '../sheets/useSheets'
import DialDialog from './DialDialog.vue'
import DialPresets from './DialPresets.vue'
import PortsDialog from './PortsDialog.vue'

const graph = useGraph()
const changes = useChanges()
const time = useTime()
const sheets = useSheets()
const { keyed } = useEvaluation()
const shapes = inject(shapesKey, ref<string[]>([]))
const open = ref(true)
const over = ref(false)
const editing = ref<string | null>(null)
const porting = ref(false)
const label = (name: string) => name.replaceAll('_', ' ')

/** Inside of a card a dial shows what that card sets it to; on the outside, its own value. */
const around = computed(() => (void graph.path.value, void graph.root.value, graph.around()))
const set = computed(() => (around.value ? (around.value.graph.nodes[around.value.node]?.parameters ?? {}) : {}))
const dials = computed(() =>
  Object.entries(graph.document.value.dials ?? {}).map(([name, dial]) => {
    const parameter = describeDial(name, dial)
    const preset = around.value ? parameter.default : (dial.default ?? dial.value)
    return {
      name,
      dial,
      parameter: {
        ...parameter,
        takes_formula: around.value ? parameter.takes_formula : dial.type === 'varying',
        default: preset,
      },
      value: set.value[name] ?? dial.value,
    }
  }),
)
const shown = computed(() =>
  dials.value.filter(
    ({ dial }) =>
      !dial.shown_when ||
      JSON.stringify(dials.value.find((one) => one.name === dial.shown_when!.dial)?.value) ===
        JSON.stringify(dial.shown_when.value),
  ),
)
const sections = computed(() =>
  [...new Set(shown.value.map(({ dial }) => dial.section ?? ''))].map((section) => ({
    section,
    dials: shown.value.filter(({ dial }) => (dial.section ?? '') === section),
  })),
)
const values = computed(() => Object.fromEntries(dials.value.map((entry) => [entry.name, entry.value])))
const ports = computed(() => [
  ...(graph.document.value.inputs ?? []).map((port) => `in ${label(port.name)}`),
  ...(graph.document.value.outputs ?? []).map((port) => `out ${label(port.name)}`),
])

function write(name: string, typed: unknown, how: 'preview' | 'edit', plain = false) {
  const holder = around.value
  const entry = dials.value.find((one) => one.name === name)
  const value = plain ? typed : time.turned(entry?.value, typed, entry?.parameter.widget ?? '')
  const turn = (next: typeof graph.document.value) => {
    if (holder) next.nodes[holder.node]!.parameters = { ...next.nodes[holder.node]!.parameters, [name]: value }
    else next.dials![name]!.value = value
  }
  if (how === 'preview') graph.preview(turn, holder ? 1 : 0)
  else {
    graph.dropPreview()
    graph.edit(`turn ${label(name)}`, turn, holder ? 1 : 0)
  }
}

function kept(dial: Dial, value: unknown): unknown {
  if (typeof value !== 'number') return value
  const whole = dial.type === 'integer' ? Math.round(value) : value
  return Math.min(Math.max(whole, dial.low ?? -Infinity), dial.high ?? Infinity)
}

function preview(name: string, value: unknown, dial: Dial) {
  if (!around.value && ['number', 'integer'].includes(dial.type) && typeof value !== 'number') return
  write(name, kept(dial, value), 'preview')
}

function commit(name: string, value: unknown, dial: Dial, plain = false) {
  if (plain) return write(name, value, 'edit', true)
  if (!around.value && ['number', 'integer'].includes(dial.type) && typeof value !== 'number')
    return graph.dropPreview()
  write(name, kept(dial, value), 'edit')
}

async function add() {
  const answer = await ElMessageBox.prompt('Formulas read the dial by this name: letters, digits and _.', 'New dial', {
    inputPattern: /^[A-Za-z_]\w{0,63}$/,
    inputErrorMessage: 'Use letters, digits and _, not starting with a digit.',
    confirmButtonText: 'Add',
    cancelButtonText: 'Cancel',
  }).catch(() => null)
  const name = answer && (answer as { value: string }).value
  if (!name || name in (graph.document.value.dials ?? {})) return
  const made: Dial = { type: 'number', value: 0.5, soft: [0, 1], step: 0.01, unit: '', help: '' }
  graph.edit(`add the dial ${label(name)}`, (next) => (next.dials = { ...next.dials, [name]: made }))
}

function drop(name: string) {
  graph.edit(`remove the dial ${label(name)}`, (next) => delete next.dials![name])
}

function dragOver(event: DragEvent) {
  if (!event.dataTransfer?.types.includes(DRAGGED)) return
  event.preventDefault()
  over.value = true
}

/** A parameter dragged here becomes a dial; dragged onto a dial, that dial drives it too. */
async function take(event: DragEvent, onto = '') {
  over.value = false
  const text = event.dataTransfer?.getData(DRAGGED)
  if (!text) return
  event.preventDefault()
  event.stopPropagation()
  const pair = JSON.parse(text) as Pair
  open.value = true
  await changes.make(`make ${label(pair.parameter)} a dial`, 'make dial', { ...pair, name: onto })
}
defineExpose({ add })
</script>

<template>
  <section
    class="dials"
    :class="{ over }"
    aria-label="Dials"
    data-help="own_operators.html#dials"
    data-test="dials"
    @dragover="dragOver"
    @dragleave="over = false"
    @drop="take($event)"
  >
    <header>
      <ElButton text :aria-expanded="open" @click="open = !open">
        {{ open ? '▾' : '▸' }} Dials <span class="faint">{{ dials.length || 'none yet' }}</span>
      </ElButton>
      <span class="faint ports" :title="ports.join(', ')">{{ ports.join(', ') }}</span>
      <DialPresets v-if="!around && dials.length" />
      <ElButton
        text
        title="Inputs, outputs and what must hold of them, where this graph is used as an operator"
        data-test="ports"
        @click="porting = true"
      >
        edge
      </ElButton>
      <ElButton
        v-if="!around"
        text
        title="Proof sheets: what the graph makes while its dials are turned, many variants side by side"
        data-test="open-sheets"
        @click="sheets.open.value = true"
      >
        proofs
      </ElButton>
      <ElButton text title="Add a dial that formulas can read by name" data-test="add-dial" @click="add">
        + dial
      </ElButton>
    </header>
    <div v-if="open && dials.length" class="list">
      <template v-for="group in sections" :key="group.section">
        <b v-if="group.section" class="section">{{ group.section }}</b>
        <div
          v-for="entry in group.dials"
          :key="entry.name"
          class="dial"
          :data-test="`dial-${entry.name}`"
          @drop="take($event, entry.name)"
        >
          <span v-if="isWired(entry.value) || isBound(entry.value)" class="held"
            >{{ entry.parameter.label }}
            <span class="faint">{{
              isWired(entry.value) ? `← ${entry.value.wire}` : `= ${label((entry.value as { dial: string }).dial)}`
            }}</span></span
          >
          <ParameterField
            v-else
            class="grow"
            :parameter="entry.parameter"
            :value="entry.value"
            :values="values"
            :served="keyed.dials[entry.name]"
            :shapes="shapes"
            @preview="preview(entry.name, $event, entry.dial)"
            @commit="(typed, plain) => commit(entry.name, typed, entry.dial, plain)"
          />
          <ElButton
            class="drop"
            text
            :title="`Settings of the dial ${entry.parameter.label}`"
            :aria-label="`Settings of the dial ${entry.parameter.label}`"
            :data-test="`edit-dial-${entry.name}`"
            @click="editing = entry.name"
          >
            ⋮
          </ElButton>
          <ElButton
            class="drop"
            text
            :title="`Remove the dial ${entry.parameter.label}`"
            :aria-label="`Remove the dial ${entry.parameter.label}`"
            @click="drop(entry.name)"
          >
            ×
          </ElButton>
        </div>
      </template>
    </div>
    <p v-if="over" class="faint hint">Drop it here to make it a dial; on a dial, to let that one drive it too.</p>
    <DialDialog v-if="editing" :name="editing" @close="editing = null" />
    <PortsDialog v-if="porting" @close="porting = false" />
  </section>
</template>

<style scoped>
.dials {
  padding: 3px 10px 4px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
  font-size: 13px;
}
.over {
  outline: 2px dashed var(--accent);
  outline-offset: -3px;
}
header {
  display: flex;
  align-items: center;
}
header .el-button {
  padding: 0 4px;
  font-weight: 600;
}
.ports {
  flex: 1;
  min-width: 0;
  margin: 0 8px;
  overflow: hidden;
  text-align: right;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.list {
  max-height: 190px;
  overflow: auto;
}
.section {
  display: block;
  margin-top: 3px;
  border-bottom: 1px solid var(--line);
  font-size: 12.5px;
}
.dial {
  display: flex;
  align-items: center;
  gap: 4px;
  min-height: 31px;
}
.grow {
  flex: 1;
  min-width: 0;
}
.held {
  flex: 1;
}
.dial :deep(.unit) {
  width: 26px;
}
.dial :deep(.short + .slider) {
  margin-left: 32px;
}
.drop {
  padding: 0 5px;
  min-height: 22px;
  color: var(--faint-ink);
}
.hint {
  margin: 2px 4px;
}
</style>
