<script setup lang="ts">
/** A node as it is drawn: what it does in one line, its counts, time and troubles; opened, its controls. */
import { Handle, Position, useVueFlow } from '@vue-flow/core'
import { computed, inject, nextTick, provide, ref, shallowRef, watch } from 'vue'
import { api, type ParameterState } from '../api/client'
import { isError, type Summary } from '../api/results'
import { useEvaluation } from '../stores/useEvaluation'
import { isShown, useCatalogue } from '../stores/useCatalogue'
import KindGlyph from '../shared/KindGlyph.vue'
import { change, count, duration, shortChange } from '../shared/numbers'
import { inputsOf, isWired, nodeLine, setParameter, splitFeed } from '../model/document'
import CardNested from './CardNested.vue'
import ParameterRow from './ParameterRow.vue'
import { useChanges } from '../stores/useChanges'
import { useChecks } from '../stores/useChecks'
import { useChosen } from '../stores/useSelectedCards'
import { useInspect } from '../stores/useInspection'
import { useView } from '../stores/useView'
import { textPlaceKey } from '../text/textPlace'
import { useText } from '../stores/useText'
import { publishKey, shapesKey } from '../stores/injectionKeys'
import { useGraph } from '../stores/useGraph'

const props = defineProps<{ id: string; selected?: boolean }>()
const { reports } = useEvaluation()
const graph = useGraph()
const { operatorOf, newer } = useCatalogue()
const shapes = inject(shapesKey, ref<string[]>([]))
const openPublish = inject(publishKey, () => {})
const changes = useChanges()
const { traced } = useChosen()
const view = useView()
const inspect = useInspect()
const checks = useChecks()
const texts = useText()
provide(textPlaceKey, { node: props.id })

const node = computed(() => graph.document.value.nodes[props.id])
const declared = computed(() => operatorOf(node.value))
const report = computed(() => reports.value[props.id])
const lookedAt = computed(() => splitFeed(graph.document.value.looking_at ?? ''))
const looking = computed(() => lookedAt.value.from === props.id)
const outputs = computed(() => declared.value?.outputs ?? [])
const shownOutput = computed(() => (looking.value ? (lookedAt.value.output ?? outputs.value[0]?.name) : ''))
const title = computed(() => node.value?.title || declared.value?.label || node.value?.operator || '')
const titleOf = (id: string | null | undefined) => (id && graph.document.value.nodes[id]?.title) || id || ''
const warnings = computed(() => report.value?.notes.filter((note) => note.level === 'warning') ?? [])
const notes = computed(() => report.value?.notes.filter((note) => note.level === 'note') ?? [])
const values = computed(() => Object.fromEntries((declared.value?.parameters ?? []).map((p) => [p.name, node.value?.parameters?.[p.name] ?? p.default])))
const visible = computed(() => declared.value?.parameters.filter((p) => isShown(p, declared.value!, values.value)) ?? [])
const failedAt = computed(() => (report.value?.state === 'failed' ? report.value.error?.parameter : null))
const message = computed(() => (report.value?.state === 'failed' ? report.value.error?.message : ''))

/** What the node does: its operator if the title does not say so, and the values that differ from the defaults. */
const line = computed(() => {
  const said = node.value ? nodeLine(node.value, declared.value) : ''
  return [node.value?.title ? declared.value?.label : '', said].filter(Boolean).join(' · ') || declared.value?.summary || ''
})

const time = computed(() => (report.value?.state !== 'done' ? '' : node.value?.skip ? 'skipped' : duration(report.value.seconds)))
const timeHelp = computed(() => (report.value?.cached ? 'taken from the cache; this is how long it took to make' : 'time to evaluate'))

const numbers = computed(() =>
  (['points', 'faces', 'curves', 'instances'] as const)
    .map((kind) => ({ kind: kind.slice(0, -1), count: report.value?.counts?.[kind] ?? 0, change: report.value?.change?.[kind] ?? 0 }))
    .filter((entry) => entry.count || entry.change),
)

/** Numbers that a closed card keeps in sight: how many a group holds, or the range of values. */
const inSight = computed(() => {
  const family = declared.value?.family
  if (props.selected || (family !== 'groups' && family !== 'attributes')) return ''
  return (family === 'groups' ? notes.value.at(-1) : notes.value[0])?.text ?? ''
})

/** What checks found wrong with the result; on cards that are not looked at, only what was not so before them. */
const wrong = computed(() => {
  if (declared.value?.makes_value) return []
  const found = checks.of(props.id, report.value?.key)
  const feed = splitFeed(Object.values(node.value?.inputs ?? {}).flat()[0] ?? '').from
  const before = looking.value ? [] : checks.of(feed, reports.value[feed]?.key)
  return found.filter((one) => !before.some((old) => old.name === one.name && old.count === one.count))
})
const wrongHelp = computed(() => wrong.value.map((one) => `${count(one.count)} ${one.name}: ${one.help}`).join('; '))
function seeChecks() {
  if (!looking.value) look()
  inspect.panel.value = 'checks'
}

const inputs = computed(() => inputsOf(node.value, declared.value))
const { updateNodeInternals } = useVueFlow('board')
watch(() => inputs.value.map((input) => input.name).join(), () => void nextTick(() => updateNodeInternals([props.id]))) // prettier-ignore

/** What a value node writes, and the parameters of this card that value nodes feed. */
const writes = computed(() => (declared.value?.makes_value ? (report.value?.notes[0]?.text ?? '').split('\n').at(-1) : ''))
const wired = computed(() => Object.entries(values.value).filter(([, value]) => isWired(value)).map(([name]) => name)) // prettier-ignore
watch([() => props.selected, () => wired.value.join(), () => visible.value.length], () => setTimeout(() => updateNodeInternals([props.id]), 60))

/** A script's text, and the controls that it declares. */
const source = computed(() => (visible.value.some((p) => p.widget === 'script') ? String(values.value.source) : null))
const controls = computed(() => texts.of(props.id, 'source')?.controls ?? null)
watch(
  [() => props.selected, source, () => report.value?.key],
  () => {
    if (props.selected && source.value !== null && !texts.isAbout(props.id, 'source', source.value)) void texts.ask(props.id, 'source', source.value)
  },
  { immediate: true },
)

/** What the inputs hold, for the fields to offer; asked when the card is opened. */
const summaries = shallowRef<Record<string, Summary>>({})
watch(
  [() => props.selected, () => JSON.stringify(node.value?.inputs), () => inputKeys()],
  async () => {
    if (!props.selected || !graph.state.value) return
    const made: Record<string, Summary> = {}
    for (const [input, feeds] of Object.entries(node.value?.inputs ?? {})) {
      if (!feeds[0] || reports.value[splitFeed(feeds[0]).from]?.state !== 'done') continue
      const answer = await api.looks(graph.state.value.id, feeds[0], [{ what: 'summary' }], graph.basis()).catch(() => null)
      const look = answer?.looks[0]
      if (look && !isError(look)) made[input] = look as unknown as Summary
    }
    summaries.value = made
  },
  { immediate: true },
)
function inputKeys() {
  return Object.values(node.value?.inputs ?? {}).flat().map((feed) => reports.value[splitFeed(feed).from]?.key + feed).join() // prettier-ignore
}

function preview(name: string, value: unknown) {
  const preset = declared.value?.parameters.find((p) => p.name === name)?.default
  graph.preview((next) => setParameter(next, props.id, name, value, preset))
}

function commit(name: string, value: unknown) {
  const preset = declared.value?.parameters.find((p) => p.name === name)?.default
  graph.dropPreview()
  graph.edit(`set ${name.replaceAll('_', ' ')} of ${title.value}`, (next) => setParameter(next, props.id, name, value, preset))
}

function look(output?: string) {
  const feed = output && output !== outputs.value[0]?.name ? `${props.id}:${output}` : props.id
  graph.edit(`look at ${title.value}`, (next) => (next.looking_at = feed))
}

function toggleGhost() {
  view.ghosts = view.ghosts.includes(props.id) ? view.ghosts.filter((one) => one !== props.id) : [...view.ghosts, props.id]
}

function skip() {
  graph.edit(`${node.value?.skip ? 'run' : 'skip'} ${title.value}`, (next) => (next.nodes[props.id]!.skip = !node.value?.skip))
}

function rename(event: Event) {
  const text = (event.target as HTMLInputElement).value.trim()
  if (text && text !== title.value) void changes.make(`rename ${title.value}`, 'rename node', { node: props.id, title: text })
}

/** Cards that run a graph, and the way to the card in it that failed. */
const runsGraph = computed(() => !!declared.value && (declared.value.holds_graph || !!declared.value.published))
const failedInside = computed(() => (report.value?.error?.code === 'nested' ? report.value.error.cause : null))
async function goInside() {
  const steps = failedInside.value!.split('/')
  await graph.enter(props.id)
  for (const step of steps.slice(0, -1)) await graph.enter(step)
}

/** Parameters by section, in the order in which sections come up. */
const sections = computed(() => {
  const found = new Map<string, ParameterState[]>()
  for (const parameter of visible.value) found.set(parameter.section ?? '', [...(found.get(parameter.section ?? '') ?? []), parameter])
  return [...found].map(([section, parameters]) => ({ section, parameters }))
})

/** How many faces (or points, or curves) an output holds. */
function outputCount(name: string): { kind: string; count: number } {
  const counts = report.value?.outputs?.[name] ?? {}
  const kind = (['faces', 'curves', 'instances', 'points'] as const).find((each) => counts[each]) ?? 'points'
  return { kind: kind.slice(0, -1), count: counts[kind] ?? 0 }
}

/** A mesh without shared names would be ambiguous: where in the parameters the error belongs. */
function errorOf(name: string): string {
  if (failedAt.value !== name || !message.value) return ''
  return message.value.startsWith(`${name}: `) ? message.value.slice(name.length + 2) : message.value
}
</script>

<template>
  <article v-if="node" class="card" :class="{ open: selected, looking, skipped: node.skip, nests: runsGraph, traced: traced.has(id), failed: report?.state === 'failed', waiting: report?.state === 'waiting' }" :aria-label="title" :data-test="`card-${id}`">
    <Handle v-for="(input, n) in inputs" :id="input.name" :key="input.name" type="target" :position="Position.Top" :style="{ left: `${((n + 1) * 100) / (inputs.length + 1)}%` }" :class="{ many: input.many, optional: input.optional }" :title="`${input.name}${input.optional ? ' (may stay empty)' : ''}: ${input.help}`" />
    <header @dblclick="runsGraph && graph.enter(id)">
      <input v-if="selected" class="title nodrag" :value="title" aria-label="Title" @change="rename" @keydown.enter="($event.target as HTMLInputElement).blur()" />
      <span v-else class="title">{{ title }}</span>
      <button v-if="!declared?.makes_value" class="plain small nodrag" :aria-pressed="looking" :title="looking ? 'The view shows this' : 'Look at this (L)'" :data-test="`look-${id}`" @click.stop="look()">look</button>
      <button v-if="selected && !declared?.makes_value" class="plain small nodrag" :aria-pressed="view.ghosts.includes(id)" title="Draw its result as a faint wire beside what is looked at (H)" :data-test="`ghost-${id}`" @click.stop="toggleGhost">ghost</button>
      <button v-if="inputs.length" class="plain small nodrag" :aria-pressed="!!node.skip" title="Pass the geometry through unchanged (K)" @click.stop="skip">skip</button>
    </header>
    <p v-if="writes && !selected" class="line mono"><span :title="writes">{{ writes }}</span></p>
    <p v-else-if="!selected" class="line mono"><b v-if="newer(node)" class="new" :title="`Release ${newer(node)} is there; open the card to see what differs`">↑ {{ newer(node) }}</b><span :title="line">{{ line }}</span><span v-if="time" class="time" :title="timeHelp">{{ time }}</span></p>
    <p v-else class="about faint"><b v-if="node.title">{{ declared?.label }}: </b>{{ declared?.summary }}.</p>
    <CardNested v-if="selected && declared && runsGraph" :id="id" :operator="declared" @publish="openPublish(id)" />
    <div v-if="selected && declared" class="fields nodrag nowheel nopan">
      <template v-for="group in sections" :key="group.section">
        <b v-if="group.section" class="section">{{ group.section }}</b>
        <ParameterRow
          v-for="parameter in group.parameters" :id="id" :key="parameter.name" :operator="declared" :parameter="parameter" :value="values[parameter.name]" :values="values" :error="errorOf(parameter.name)"
          :summary="summaries[parameter.of ?? 'geo'] ?? summaries[inputs[0]?.name ?? '']" :shapes="shapes" :controls="controls" @preview="preview(parameter.name, $event)" @commit="commit(parameter.name, $event)"
        />
      </template>
      <p v-if="!visible.length" class="faint none">{{ declared.holds_graph ? 'No dials yet: open it, and drag a parameter onto the dials.' : 'Nothing to set.' }}</p>
    </div>
    <template v-if="!selected">
      <Handle v-for="(name, n) in wired" :id="`=${name}`" :key="name" type="target" :position="Position.Top" class="value" :style="{ left: `calc(100% - ${16 + n * 14}px)` }" :title="name" />
    </template>
    <p v-if="message && !(selected && failedAt)" class="message bad" role="alert" data-test="card-error">{{ message }} <button v-if="failedInside" class="plain small nodrag" data-test="go-inside" @click.stop="goInside">go there</button></p>
    <p v-else-if="report?.state === 'waiting'" class="message faint">waits for ‘{{ titleOf(report.error?.cause) }}’, which has no result</p>
    <p v-for="note in warnings" :key="note.text" class="message warn" data-test="card-warning">{{ note.text }}</p>
    <p v-if="inSight" class="message faint short" :title="inSight" data-test="card-note">{{ inSight }}</p>
    <template v-if="selected && declared?.makes_value"><pre class="mono written">{{ notes[0]?.text }}</pre></template>
    <template v-else-if="selected"><p v-for="note in notes" :key="note.text" class="message faint">{{ note.text }}</p></template>
    <footer v-if="!declared?.makes_value" class="mono">
      <span v-for="entry in numbers" :key="entry.kind" :title="`${entry.kind}s, and the change from the input`"><KindGlyph :kind="entry.kind" />{{ count(entry.count) }}<small v-if="entry.change" :title="`${change(entry.change)} ${entry.kind}s`">{{ shortChange(entry.change) }}</small></span>
      <button v-if="wrong.length" class="plain small checks nodrag" :title="`${wrongHelp}. Click to see where, and what mends it.`" :aria-label="`Checks: ${wrongHelp}`" :data-test="`checks-${id}`" @click.stop="seeChecks">{{ count(wrong.reduce((sum, one) => sum + one.count, 0)) }} {{ wrong.length === 1 ? wrong[0]!.name : 'found by checks' }}</button>
      <button v-else-if="looking && checks.isLeftOut(id, report?.key)" class="plain small checks nodrag" title="This is large: it is checked when you ask for it" :data-test="`checks-${id}`" @click.stop="seeChecks">not checked</button>
      <span v-if="selected && time" class="time" :title="timeHelp">{{ time }}</span>
    </footer>
    <div v-if="outputs.length > 1" class="outputs nodrag">
      <button v-for="made in outputs" :key="made.name" class="plain small" :aria-pressed="shownOutput === made.name" :title="`Look at this output: ${made.help}`" :data-test="`look-${id}-${made.name}`" @click.stop="look(made.name)">{{ made.name }}<small class="mono"><KindGlyph :kind="outputCount(made.name).kind" />{{ count(outputCount(made.name).count) }}</small></button>
    </div>
    <Handle v-for="(made, n) in outputs" :id="made.name" :key="made.name" type="source" :position="Position.Bottom" :class="{ value: declared?.makes_value }" :style="{ left: `${((n + 0.5) * 100) / outputs.length}%` }" :title="`${made.name}: ${made.help}`" />
  </article>
</template>

<style scoped>
.card {
  width: 224px;
  padding: 7px 10px 6px;
  border: 1px solid var(--line);
  border-radius: 7px;
  background: var(--sheet);
  box-shadow: var(--shade);
  font-size: 14px;
  cursor: grab;
}
.card.open {
  width: 392px;
  border-color: var(--strong-line);
  background: var(--raised);
  cursor: default;
}
.short {
  display: -webkit-box;
  overflow: hidden;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
}
.card.looking {
  border-left: 4px solid var(--accent);
  padding-left: 7px;
}
.card.traced {
  outline: 3px solid color-mix(in srgb, var(--accent) 60%, transparent);
  outline-offset: 2px;
}
.card.failed {
  border-color: var(--bad);
  border-style: dashed;
}
.card.skipped {
  opacity: 0.66;
}
header {
  display: flex;
  align-items: center;
  gap: 4px;
}
.title {
  flex: 1 1 auto;
  min-width: 0;
  overflow: hidden;
  font-weight: 700;
  text-overflow: ellipsis;
  white-space: nowrap;
}
input.title {
  border: 0;
  border-bottom: 1px dashed var(--line);
  padding: 0;
  background: none;
}
.small {
  min-height: 22px;
  padding: 0 5px;
  font-size: 12px;
  color: var(--faint-ink);
}
.small[aria-pressed='true'] {
  color: var(--accent);
}
p {
  margin: 2px 0;
}
.line {
  display: flex;
  gap: 8px;
  color: var(--faint-ink);
  font-size: 12px;
}
.line span:first-child {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.about {
  font-size: 13px;
}
.fields {
  display: flex;
  flex-direction: column;
  gap: 3px;
  margin: 6px 0;
  max-height: 420px;
  overflow: auto;
}
.section {
  margin-top: 5px;
  border-bottom: 1px solid var(--line);
  font-size: 12.5px;
}
.nests {
  box-shadow:
    3px 3px 0 -1px var(--sheet),
    3px 3px 0 0 var(--line),
    var(--shade);
}
.new {
  flex: none;
  color: var(--accent);
}
.written {
  margin: 2px 0;
  padding: 4px 7px;
  overflow: auto;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--sheet);
  font-size: 12px;
}
.none {
  font-size: 13px;
}
.message {
  font-size: 12.5px;
  overflow-wrap: anywhere;
}
.bad {
  color: var(--bad);
}
.warn {
  padding: 1px 6px;
  border-radius: 4px;
  color: var(--warn);
  background: var(--warn-wash);
}
footer {
  display: flex;
  flex-wrap: wrap;
  gap: 0 7px;
  min-height: 18px;
  margin-top: 2px;
  font-size: 12px;
}
footer span {
  display: inline-flex;
  align-items: center;
  gap: 3px;
}
footer small {
  font-size: 12px;
  letter-spacing: -0.5px;
  color: var(--good);
}
.outputs {
  display: flex;
  margin: 3px -10px -6px;
  border-top: 1px solid var(--line);
}
.outputs button {
  flex: 1 1 0;
  min-width: 0;
  min-height: 24px;
  white-space: nowrap;
}
.outputs small {
  display: inline-flex;
  align-items: center;
  gap: 2px;
  margin-left: 5px;
  font-size: 12px;
  color: var(--faint-ink);
}
.checks {
  min-height: 18px;
  padding: 0 4px;
  border-bottom: 1px dotted var(--warn);
  border-radius: 0;
  color: var(--warn);
}
.time {
  margin-left: auto;
  color: var(--faint-ink);
  white-space: nowrap;
}
</style>
