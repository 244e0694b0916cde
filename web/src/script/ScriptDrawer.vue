<script setup lang="ts">
/** The editor of a script, in the drawer: text, errors, what it prints, snippets. Saved after a short pause. */
import Choice from '../shared/controls/Choice.vue'
import { ElButton } from 'element-plus'
import type { EditorView } from '@codemirror/view'
import { useDebounceFn } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useEvaluation } from '../stores/useEvaluation'
import { useLive } from '../stores/insight/useLive'
import { useSelection } from '../stores/useSelection'
import { setParameter } from '../model/document'
import { useGraph } from '../stores/useGraph'
import { useCatalogue } from '../stores/useCatalogue'
import { makeEditor, showError } from '../text/editor'
import { liveValues, setLive } from '../text/liveValues'
import { plainOf } from '../text/plainError'
import { SNIPPETS } from './snippets'
import { useText } from '../stores/useText'
import { plainText } from '../shared/plainText'

const props = defineProps<{ node: string }>()
defineEmits<{ close: [] }>()
const PAUSE_MS = 450
const graph = useGraph()
const texts = useText()
const { catalogue, operatorOf } = useCatalogue()
const { reports } = useEvaluation()
const selection = useSelection()
const live = useLive()
const host = ref<HTMLElement>()
let view: EditorView | null = null

const node = computed(() => graph.document.value.nodes[props.node])
const declared = computed(() => operatorOf(node.value))
const preset = (name: string) => declared.value?.parameters.find((entry) => entry.name === name)?.default
const stored = computed(() => plainText(node.value?.parameters?.source ?? preset('source')))
const each = computed(() => plainText(node.value?.parameters?.each ?? 'point'))
const options = computed(() => declared.value?.parameters.find((entry) => entry.name === 'each')?.options ?? [])
const title = computed(() => node.value?.title || props.node)
const typed = ref(stored.value)
const state = computed(() => texts.of(props.node, 'source'))
const report = computed(() => reports.value[props.node])
/** The error of the text as it stands, else what went wrong when it ran. */
const error = computed(
  () =>
    state.value?.error ??
    (typed.value === stored.value && report.value?.state === 'failed' ? report.value.error : null),
)
const notes = computed(() => (report.value?.state === 'done' ? report.value.notes : []))
const picked = computed(() =>
  selection.kind.value === (each.value === 'piece' ? 'point' : each.value)
    ? [...selection.chosen.value].slice(0, 8)
    : [],
)
const prints = computed(() => /\bprint\s*\(/.test(typed.value))

/** The values of the picked element, in the text. */
const found = computed(() => (live.isAbout(props.node, 'source', typed.value) ? live.of(props.node, 'source') : null))
const onWhich = computed(() => {
  if (!found.value) return ''
  const { kind, element, missing, cut } = found.value
  if (element === null) return missing
  const of = kind === 'whole' ? 'values of the one run' : `values of ${kind} ${element}`
  return cut ? `${of}; there are more than can be shown` : of
})
/** While one types, the old values stay on their lines until the new ones are there. */
watch(
  () => (found.value ? live.shown(props.node, 'source') : null),
  (shown) => shown && view?.dispatch({ effects: setLive.of(shown) }),
)

async function ask() {
  const source = typed.value
  live.draw(props.node, 'source')
  void live.ask(props.node, 'source', source)
  const answer = await texts.ask(props.node, 'source', source, picked.value)
  if (answer && view && source === typed.value) showError(view, answer.error)
}
const askSoon = useDebounceFn(() => void ask(), 180)
const saveSoon = useDebounceFn(save, PAUSE_MS)

function changed(text: string) {
  typed.value = text
  graph.announce()
  void askSoon()
  void saveSoon()
}

function save() {
  graph.withdraw()
  if (typed.value === stored.value || !node.value) return
  graph.edit(`edit the text of ${title.value}`, (next) =>
    setParameter(next, props.node, 'source', typed.value, preset('source')),
  )
}

function setEach(value: string) {
  graph.edit(`run ${title.value} on each ${value}`, (next) =>
    setParameter(next, props.node, 'each', value, preset('each')),
  )
}

function insert(number: string) {
  const snippet = SNIPPETS[Number(number)]
  if (!snippet || !view) return
  const empty = !typed.value.trim() || typed.value === preset('source')
  const at = empty ? { from: 0, to: view.state.doc.length } : { from: view.state.doc.length, to: view.state.doc.length }
  const text = (at.from && !typed.value.endsWith('\n') ? '\n' : '') + snippet.text
  view.dispatch({ changes: { ...at, insert: text }, selection: { anchor: at.from + text.length } })
  view.focus()
  if (empty && snippet.each !== each.value) {
    graph.edit(`run ${title.value} on each ${snippet.each}`, (next) =>
      setParameter(next, props.node, 'each', snippet.each, preset('each')),
    )
  }
}

onMounted(() => {
  view = makeEditor(
    host.value!,
    stored.value,
    `Text of ${title.value}`,
    () => ({ state: state.value, functions: catalogue.functions }),
    changed,
    liveValues(live.step),
  )
  void ask()
})
onBeforeUnmount(() => {
  live.draw('', '')
  save()
  view?.destroy()
})
/** Undo on the board, or another window, changes the stored text. */
watch(stored, (text) => {
  if (!view || text === view.state.doc.toString() || view.hasFocus) return
  view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: text } })
})
watch(
  [picked, () => live.picked.value, each, () => JSON.stringify(node.value?.inputs), () => report.value?.key],
  () => void askSoon(),
)
</script>

<template>
  <section class="drawer" aria-label="Script" data-help="language.html#scripts">
    <div class="bar">
      <ElButton text title="Back to the table of elements" data-test="show-ledger" @click="$emit('close')">
        Ledger
      </ElButton>
      <ElButton text aria-pressed="true">Script</ElButton>
      <b class="name" :title="title">{{ title }}</b>
      <span class="faint">runs on</span>
      <Choice
        class="each"
        :value="each"
        :entries="options.map((option) => ({ ...option, label: option.value }))"
        label="Runs on"
        data-test="script-each"
        @choose="setEach"
      />
      <Choice
        class="snippets"
        :entries="
          SNIPPETS.map((snippet, number) => ({
            value: String(number),
            label: `${snippet.title} (${snippet.each})`,
          }))
        "
        hint="snippets …"
        label="Insert a snippet"
        data-test="snippets"
        @choose="insert"
      />
      <span v-if="onWhich" class="faint which" :title="onWhich" data-test="live-element">{{ onWhich }}</span>
      <span class="status" role="status" data-test="script-status">
        <span v-if="error" class="bad">{{ error.line ? `line ${error.line}: ` : '' }}{{ plainOf(error) }}</span>
        <span v-else-if="typed !== stored" class="faint">…</span>
        <template v-else
          ><span
            v-for="note in notes"
            :key="note.text"
            class="note"
            :class="note.level === 'warning' ? 'warn' : 'faint'"
            >{{ note.text }}</span
          ></template
        >
      </span>
    </div>
    <div class="work">
      <div ref="host" class="host" data-test="script-text" />
      <aside v-if="prints" class="printed mono" aria-label="Printed">
        <p v-if="each !== 'once' && !picked.length" class="faint">
          Pick {{ each === 'edge' ? 'an' : 'a' }} {{ each }} in the view or the ledger to see what is printed for it.
        </p>
        <p v-for="(line, number) in state?.printed ?? []" :key="number">{{ line }}</p>
      </aside>
    </div>
  </section>
</template>

<style scoped>
.drawer {
  display: flex;
  flex-direction: column;
  min-height: 0;
  border-top: 1px solid var(--line);
  background: var(--sheet);
}
.bar {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 3px 10px;
  border-bottom: 1px solid var(--line);
  font-size: 13px;
}
.name {
  max-width: 160px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.each {
  width: 84px;
}
.snippets {
  width: 104px;
}
.which {
  flex: 0 1 auto;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.status {
  flex: 1;
  min-width: 0;
  max-height: 2.8em;
  overflow: auto;
  text-align: right;
}
.note + .note {
  margin-left: 7px;
}
.bad {
  color: var(--bad);
}
.warn {
  color: var(--warn);
}
.work {
  display: flex;
  flex: 1;
  min-height: 0;
}
.host {
  flex: 1;
  min-width: 0;
  overflow: hidden;
}
.printed {
  flex: 0 0 210px;
  padding: 6px 10px;
  overflow: auto;
  border-left: 1px solid var(--line);
  font-size: 13px;
}
.printed p {
  margin: 0 0 2px;
  overflow-wrap: anywhere;
}
</style>
