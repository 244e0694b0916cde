<script setup lang="ts">
/** Why the picked element has a value: which card gave it, by which text, from what; one card back at a time. */
import { ElButton } from 'element-plus'
import { computed, watch } from 'vue'
import Choice from '../../../shared/controls/Choice.vue'
import { entriesOf } from '../../../shared/controls/choices'
import { answerTo, type Why, type WhyValue } from '../../../api/results'
import { useEvaluation } from '../../../stores/useEvaluation'
import { useGraph } from '../../../stores/useGraph'
import { useSelection } from '../../../stores/useSelection'
import { useWhy } from '../../../stores/insight/useWhy'
import { useTitles } from '../useTitles'

const graph = useGraph()
const selection = useSelection()
const { looks } = useEvaluation()
const why = useWhy()
const titleOf = useTitles()

const element = computed(() => [...selection.chosen.value].at(-1))
const summary = computed(() => looks.value?.answers.map((one) => answerTo('summary', one)).find((one) => one))
const names = computed(() => {
  const kind = selection.kind.value
  const known = summary.value
  return [...(known?.attributes[kind] ?? []).map((one) => one.name), ...(known?.built_in[kind] ?? [])]
})
const first = computed(() => why.asked.value[0])
const last = computed(() => why.answers.value.length - 1)

/** Another picked element is asked about the same value. */
watch([element, selection.kind], ([now, kind]) => {
  const name = first.value?.name
  if (now !== undefined && name && names.value.includes(name) && first.value?.feed === looks.value?.node)
    why.begin(kind, now, name)
})

function ask(name: string) {
  if (element.value !== undefined) why.begin(selection.kind.value, element.value, name)
}

function look(feed: string) {
  graph.edit(`look at ${titleOf(feed)}`, (next) => (next.looking_at = feed))
}

const shortened = (text: string) => (text.length > 90 ? `${text.slice(0, 90)}…` : text)
const amount = (one: { value: string; unit: string }) => (one.unit ? `${one.value} ${one.unit}` : one.value)
/** The lines of a text with what they gave; of a long one those that write the value, and those around. */
function linesOf(text: Why['texts'][number]) {
  const gave = new Map(text.lines)
  const all = text.source.split('\n').map((line, i) => ({ number: i + 1, line, gave: gave.get(i + 1) ?? '' }))
  const written = new Set(text.writes)
  return all.length <= 8 ? all : all.filter((one) => written.has(one.number) || (!written.size && one.gave)).slice(0, 8)
}
const causeWords = (one: WhyValue) =>
  `${one.name} of ${one.kind === 'whole' ? 'the whole' : `${one.kind} ${one.element}`}`
</script>

<template>
  <p v-if="element === undefined && !why.answers.value.length" class="faint">
    Pick an element, or press <b>?</b> on a cell of the ledger: what its value comes from is shown here.
  </p>
  <Choice
    v-if="element !== undefined"
    :value="first?.element === element ? first.name : ''"
    :entries="entriesOf(names)"
    :hint="`value of ${selection.kind.value} ${element} …`"
    :label="`Which value of ${selection.kind.value} ${element}`"
    data-test="why-name"
    @choose="ask"
  />
  <p v-if="why.trouble.value" class="bad" role="alert">{{ why.trouble.value }}</p>
  <p v-else-if="why.waiting.value && !why.answers.value.length" class="faint">Looking …</p>
  <ol class="chain" data-test="why-chain">
    <li v-for="(one, at) in why.answers.value" :key="at" :class="{ past: at < last }">
      <ElButton v-if="at < last" text class="past" :title="`Back to ${one.name}`" @click="why.backTo(at)">
        {{ causeWords(one.wrote) }} = <span class="mono">{{ shortened(amount(one)) }}</span>
      </ElButton>
      <template v-else>
        <p class="value">
          <b>{{ causeWords(one.wrote) }}</b>
          <span class="mono">{{ amount(one) }}</span>
        </p>
        <p v-if="one.carried.length" class="faint">
          passed on as it was by
          <template v-for="(through, n) in one.carried" :key="n"
            >{{ n ? ', ' : ''
            }}<ElButton text class="card" @click="look(through.feed)">{{ titleOf(through.feed) }}</ElButton></template
          >
        </p>
        <p>
          <ElButton text class="card" :title="`Look at ${titleOf(one.wrote.feed)}`" @click="look(one.wrote.feed)">{{
            titleOf(one.wrote.feed)
          }}</ElButton>
          <span class="faint">{{ one.how }}</span>
        </p>
        <div v-for="text in one.texts" :key="text.parameter" class="text">
          <p class="faint">
            {{ text.parameter.replaceAll('_', ' ')
            }}{{ text.kind === 'whole' ? '' : `, on ${text.kind} ${text.element}` }}
          </p>
          <p
            v-for="line in linesOf(text)"
            :key="line.number"
            class="mono line"
            :class="{ writes: text.writes.includes(line.number) }"
          >
            {{ line.line }}<b v-if="line.gave" class="live-value">{{ shortened(line.gave) }}</b>
          </p>
          <p v-if="text.error" class="bad">{{ text.error.message }}</p>
        </div>
        <p v-for="[label, value] in one.values" :key="label" class="given">
          <span class="faint">{{ label }}</span> <span class="mono">{{ shortened(value) }}</span>
        </p>
        <template v-if="one.causes.length">
          <p class="faint heading">What went in</p>
          <ElButton
            v-for="(cause, n) in one.causes"
            :key="n"
            text
            class="cause"
            :title="`Why has ${causeWords(cause)} this value?`"
            :data-test="`cause-${cause.name}`"
            @click="why.goOn(at, cause)"
          >
            <span class="what">{{ causeWords(cause) }}</span>
            <span class="mono">{{ shortened(amount(cause)) }}</span>
            <span class="faint">from {{ titleOf(cause.feed) }} →</span>
          </ElButton>
        </template>
        <p v-else class="faint">That is where it begins.</p>
      </template>
    </li>
  </ol>
</template>

<style scoped>
.chain {
  margin: 6px 0;
  padding: 0;
  list-style: none;
}
li {
  padding: 3px 0 5px 9px;
  border-left: 2px solid var(--accent);
}
li.past {
  border-color: var(--line);
}
li .el-button {
  height: auto;
  min-height: 24px;
  padding: 1px 5px;
  white-space: normal;
  text-align: left;
}
.past.el-button {
  font-size: 12.5px;
  color: var(--faint-ink);
}
.value {
  display: flex;
  flex-direction: column;
  overflow-wrap: anywhere;
}
.value .mono {
  font-size: 15px;
}
.card.el-button {
  margin: 0;
  padding: 0 2px;
  min-height: 20px;
  font-weight: 600;
  vertical-align: baseline;
}
.text {
  margin: 4px 0;
  padding: 2px 7px;
  border-radius: 5px;
  background: var(--raised);
}
.line {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  font-size: 12.5px;
  color: var(--faint-ink);
}
.line.writes {
  color: var(--ink);
}
.given {
  overflow-wrap: anywhere;
}
.heading {
  margin-top: 6px;
}
.cause.el-button {
  display: block;
  width: 100%;
  margin: 0 0 3px;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--raised);
  line-height: 1.4;
}
.cause :deep(> span) {
  display: block;
  width: 100%;
}
.cause .mono {
  display: block;
  overflow-wrap: anywhere;
}
.what {
  font-weight: 600;
}
.bad {
  color: var(--bad);
}
</style>
