<script setup lang="ts">
/** The panel of checks, trace or comparison, beside the picture. */
import { computed, inject, nextTick, shallowRef, watch } from 'vue'
import { api } from '../../api/client'
import { useEvaluation } from '../../stores/useEvaluation'
import { useSelection } from '../../stores/useSelection'
import { splitFeed } from '../../model/document'
import { addCardKey } from '../../stores/injectionKeys'
import { useGraph } from '../../stores/useGraph'
import { useCatalogue } from '../../stores/useCatalogue'
import { change, count, short } from '../../shared/numbers'
import { momentsOf } from '../../model/revisions'
import { useChecks } from '../../stores/useChecks'
import type { Check } from '../../api/results'
import { useInspection } from '../../stores/useInspection'
import { useView } from '../../stores/useView'

const emit = defineEmits<{ frame: [] }>()
const { panel, checks, steps, difference, other, isChosen, trouble } = useInspection()
const view = useView()
const FORMS = [
  { name: 'colours', help: 'How far each point is from the other one, as colours' },
  { name: 'beside', help: 'Two pictures beside each other, turned together' },
  { name: 'across', help: 'One picture, with a line that is dragged across' },
] as const
const graph = useGraph()
const selection = useSelection()
const { shownNode, reports } = useEvaluation()
const counts = useChecks()
const { operatorOf } = useCatalogue()
const addCard = inject(addCardKey, () => {})

const titleOf = (feed: string) => {
  const node = graph.document.value.nodes[splitFeed(feed).from]
  return node?.title || operatorOf(node)?.label || feed
}
const others = computed(() =>
  Object.entries(graph.document.value.nodes).filter(
    ([id, node]) => id !== splitFeed(shownNode.value ?? '').from && !operatorOf(node)?.makes_value,
  ),
)
const HOW = { kept: 'passed it on', made: 'made it from another one', new: 'made it' }

/** Whether a finding is explained by what came in or by what the operator does, or is no more than a remark. */
function isExpected(check: Check): boolean {
  const node = splitFeed(shownNode.value ?? '').from
  const known = counts.of(node, reports.value[node]?.key).find((one) => one.name === check.name)
  return checks.value?.remarks.includes(check) || (known?.expected ?? false)
}

/** What nothing explains first, then the rest. */
const listed = computed(() =>
  [...(checks.value?.checks ?? []), ...(checks.value?.remarks ?? [])].sort(
    (a, b) => Number(isExpected(a)) - Number(isExpected(b)),
  ),
)

async function show(check: Check) {
  selection.kind.value = check.kind
  await nextTick()
  selection.choose(check.elements, false)
  await nextTick()
  emit('frame')
}

/** The moments before the last edits, read anew each time they are offered. */
const moments = shallowRef<ReturnType<typeof momentsOf>>([])
async function readMoments() {
  const id = graph.state.value?.id
  const log = id ? await api.edits(id).catch(() => null) : null
  moments.value = momentsOf(log?.edits ?? [])
}
watch(panel, (now) => now === 'compare' && void readMoments(), { immediate: true })

function mend(check: Check) {
  if (check.repair) addCard(check.repair.operator, check.repair.parameters)
}

function look(feed: string) {
  graph.edit(`look at ${titleOf(feed)}`, (next) => (next.looking_at = feed))
}
</script>

<template>
  <aside class="panel" :aria-label="panel" data-test="inspector">
    <header>
      <b>{{ panel === 'checks' ? 'Checks' : panel === 'trace' ? 'Trace' : 'Compare' }}</b><button
        class="plain"
        aria-label="Close"
        @click="panel = ''"
      >
        ×
      </button>
    </header>
    <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
    <template v-if="panel === 'checks'">
      <p v-if="checks && !checks.checks.length" class="good" data-test="all-well">
        Nothing is wrong with ‘{{ titleOf(shownNode ?? '') }}’.
      </p>
      <div
        v-for="check in listed"
        :key="check.name"
        class="entry"
        :class="{ fault: !isExpected(check) }"
        :data-test="`check-${check.name.replaceAll(' ', '-')}`"
      >
        <button class="plain" :title="`Select them: ${check.help}`" @click="show(check)">
          <b>{{ count(check.count) }}</b> {{ check.name }}
        </button>
        <span class="faint">{{ check.help }}{{ isExpected(check) ? '; to be expected here' : '' }}</span>
        <button
          v-if="check.repair"
          class="plain boxed"
          :title="`Add the card ${check.repair.operator.replaceAll('_', ' ')}`"
          @click="mend(check)"
        >
          {{ check.repair.operator.replaceAll('_', ' ') }}
        </button>
      </div>
    </template>
    <template v-else-if="panel === 'trace'">
      <p v-if="!steps" class="faint">Pick a point, edge, corner or face: its way is shown here and on the board.</p>
      <ol v-else>
        <li v-for="(step, n) in steps" :key="n" :class="step.how">
          <button class="plain" :title="`Look at ${titleOf(step.feed)}`" @click="look(step.feed)">
            {{ titleOf(step.feed) }}
          </button>
          <span class="faint"
            >{{ n === 0 ? `${step.kind} ${count(step.element)}: ` : `as ${step.kind} ${count(step.element)}: `
            }}{{ HOW[step.how] }}</span
          >
        </li>
      </ol>
    </template>
    <template v-else>
      <label class="with"
        >with
        <select v-model="other" class="text" aria-label="Compare with" data-test="against" @focus="readMoments">
          <option value="">choose a card or a moment</option>
          <optgroup label="another card">
            <option v-for="[id] in others" :key="id" :value="id">{{ titleOf(id) }}</option>
          </optgroup>
          <optgroup v-if="moments.length" label="itself, earlier">
            <option v-for="moment in moments" :key="moment.key" :value="moment.key">{{ moment.label }}</option>
          </optgroup>
        </select>
      </label>
      <div class="forms" role="radiogroup" aria-label="How it is seen">
        <button
          v-for="form in FORMS"
          :key="form.name"
          class="plain"
          role="radio"
          :aria-checked="view.form === form.name"
          :title="form.help"
          :data-test="`form-${form.name}`"
          @click="view.form = form.name"
        >
          {{ form.name }}
        </button>
      </div>
      <component :is="view.form === 'colours' ? 'div' : 'details'" v-if="difference">
        <summary v-if="view.form !== 'colours'">what differs</summary>
        <table>
          <tbody>
            <tr v-for="([now, by], kind) in difference.counts" :key="kind">
              <td>{{ kind }}</td>
              <td class="mono">{{ count(now) }}</td>
              <td class="mono">{{ by ? change(by) : 'same' }}</td>
            </tr>
          </tbody>
        </table>
        <p data-test="farthest">
          {{
            difference.moved
              ? `${count(difference.moved)} points are off it, ${short(difference.farthest)} m at most${view.form === 'colours' ? '; the colours show how far' : ''}.`
              : 'All points lie on it.'
          }}
        </p>
        <p v-for="entry in difference.attributes" :key="entry.kind + entry.name" class="faint">
          {{ entry.kind }} <b class="mono">{{ entry.name }}</b>: {{ entry.what }}
        </p>
        <p v-if="!difference.attributes.length" class="faint">All attributes are the same.</p>
      </component>
      <p v-else-if="!isChosen" class="faint">
        Another card’s result, or this one before one of the last edits: as a faint wire with the distance as colours,
        beside this one, or across a line.
      </p>
    </template>
  </aside>
</template>

<style scoped>
.panel {
  position: absolute;
  top: 8px;
  right: 8px;
  z-index: 3;
  width: 268px;
  max-height: calc(100% - 100px);
  padding: 6px 10px 9px;
  overflow: auto;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: color-mix(in srgb, var(--sheet) 96%, transparent);
  font-size: 13px;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
p {
  margin: 3px 0;
}
.entry {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 6px;
  padding: 3px 0;
  border-top: 1px solid var(--line);
}
.entry .plain,
ol .plain {
  min-height: 24px;
  padding: 0 5px;
}
.fault .plain:first-child {
  color: var(--warn);
}
.entry .faint {
  flex: 1 1 100%;
  padding-left: 5px;
}
ol {
  margin: 4px 0;
  padding-left: 20px;
}
.new .plain,
.made .plain {
  font-weight: 700;
}
.with {
  display: flex;
  align-items: center;
  gap: 6px;
}
.forms {
  display: flex;
  gap: 3px;
  margin: 5px 0;
}
.forms .plain {
  flex: 1;
  justify-content: center;
  min-height: 26px;
}
.with select {
  min-width: 0;
  flex: 1;
}
table {
  width: 100%;
  margin: 5px 0;
  border-collapse: collapse;
}
td {
  padding: 1px 0;
  border-bottom: 1px solid var(--line);
}
td + td {
  text-align: right;
}
.good {
  color: var(--good);
}
.bad {
  color: var(--bad);
}
</style>
