<script setup lang="ts">
/** What a sheet is to show: what each dial is turned to, how many are drawn, and which numbers are noted. */
import { watchDebounced } from '@vueuse/core'
import {
  ElButton,
  ElCheckboxButton,
  ElCheckboxGroup,
  ElFormItem,
  ElInput,
  ElInputNumber,
  ElSegmented,
} from 'element-plus'
import { computed, ref, watch } from 'vue'
import { api } from '../api/client'
import { EMPTY_BATCH, namesOf, variedBy, type Batch } from '../model/batches'
import {
  HOW_WORDS,
  howsFor,
  isDrawn,
  numbersOf,
  textOf,
  turnOf,
  written,
  type Cell,
  type How,
  type PlanBody,
  type Sheet,
  type Turn,
} from '../model/sheets'
import { count } from '../shared/numbers'
import Choice from '../shared/controls/Choice.vue'
import { useGraph } from '../stores/useGraph'
import { useProject } from '../stores/useProject'
import BatchForm from './BatchForm.vue'
import SeekForm from './SeekForm.vue'

/** The sheet that is to get more variants; none: a new one is made. */
const props = defineProps<{ extending: Sheet | null; busy: boolean }>()
const emit = defineEmits<{ make: [plan: PlanBody, title: string]; cancel: [] }>()
const graph = useGraph()
const project = useProject()
const title = ref('')
const dials = computed(() => graph.root.value.dials ?? {})
const turns = ref<Turn[]>(Object.entries(dials.value).map(([name, dial]) => turnOf(name, dial)))
/** A parameter of a node that is no dial, and what it is turned to. */
const other = ref({ name: '', list: '' })
const MODES = [
  { value: false, label: 'Make variants' },
  { value: true, label: 'Seek the best' },
]
/** Whether values are turned until formulas are best. */
const seeking = ref(false)
const seek = ref<PlanBody['seek']>(null)
const tries = ref(96)
const draws = ref(24)
const spread = ref<PlanBody['spread']>('sobol')
const seed = ref(0)
const batch = ref<Batch>({ ...EMPTY_BATCH })
const WORDS = ['faces', 'points', 'area', 'volume', 'defects'] as const
const UNITS: Record<string, string> = { area: ' m²', volume: ' m³' }
const words = ref<string[]>(['faces', 'area'])
const lines = ref('')
const SPREADS = [
  { value: 'sobol', label: 'Sobol set', help: 'fills the space between the dials evenly; best with 16, 32, 64 …' },
  { value: 'latin', label: 'Latin hypercube', help: 'each dial is spread evenly by itself' },
  { value: 'random', label: 'at random', help: 'each draw by itself' },
]
const typeOf = (name: string) => dials.value[name]?.type ?? 'number'
const hows = (name: string) =>
  howsFor(typeOf(name), seeking.value).map((how) => ({
    value: how,
    label: seeking.value && how === 'uniform' ? 'between two ends' : HOW_WORDS[how],
  }))
const unitOf = (name: string) => dials.value[name]?.unit ?? ''
const valueOf = (name: string) => {
  const value = dials.value[name]?.value
  return typeof value === 'object' ? '' : `${written(value as Cell)} ${unitOf(name)}`
}

/** A sheet that is extended begins with what it has. */
watch(
  () => props.extending,
  (sheet) => {
    if (!sheet) return
    const { plan } = sheet
    draws.value = plan.count
    spread.value = plan.spread
    seed.value = plan.seed
    turns.value = turns.value.map((turn) =>
      plan.vary[turn.name] ? { ...turn, how: 'list', list: plan.vary[turn.name]! } : turn,
    )
    const others = Object.entries(plan.vary).filter(([name]) => !(name in dials.value))
    const isShapes = ([, text]: [string, string]) =>
      namesOf(text).every((one) => project.shapeNames.value.includes(one))
    const shapes = Object.fromEntries(others.filter(isShapes).map(([name, text]) => [name, namesOf(text)]))
    batch.value = { shapes, table: plan.table ?? '', ending: plan.ending ?? '' }
    const more = others.find((one) => !isShapes(one))
    if (more) other.value = { name: more[0], list: more[1] }
  },
  { immediate: true },
)

/** What is sought goes over no inputs. */
const over = computed(() => (seeking.value ? EMPTY_BATCH : batch.value))
const plan = computed<PlanBody>(() => ({
  vary: {
    ...Object.fromEntries(
      [
        ...turns.value.map((turn) => [turn.name, textOf(turn)] as const),
        [other.value.name.trim(), other.value.list] as const,
      ].filter(([name, text]) => name && text.trim()),
    ),
    ...variedBy(over.value),
  },
  count: seeking.value ? tries.value : draws.value,
  spread: spread.value,
  seed: seed.value,
  numbers: props.extending ? props.extending.plan.numbers : numbersOf(words.value, lines.value),
  seek: seeking.value ? seek.value : null,
  table: over.value.table,
  ending: over.value.ending,
}))
/** What has no ends cannot be sought. */
watch(seeking, (now) => {
  if (now) turns.value.forEach((turn) => turn.how === 'normal' && (turn.how = 'uniform'))
})
const drawn = computed(
  () => !seeking.value && (isDrawn(turns.value) || Object.values(plan.value.vary).some((text) => /^\w+\(/.test(text))),
)

/** How many variants that makes, or why none. */
const total = ref<number | null>(null)
const columns = ref<{ sets: string[]; kept: string[] }>({ sets: [], kept: [] })
const trouble = ref('')
watchDebounced(
  plan,
  async (asked) => {
    const id = graph.state.value?.id
    if (!id || (!Object.keys(asked.vary).length && !asked.table) || (seeking.value && !asked.seek)) {
      total.value = null
      trouble.value = ''
      return
    }
    try {
      const { revision, draft, frame } = graph.basis()
      const found = await api.checkPlan(id, { plan: asked, revision, draft, frame })
      if (asked !== plan.value) return
      ;[total.value, trouble.value] = [found.count, found.trouble]
      columns.value = { sets: found.sets ?? [], kept: found.kept ?? [] }
    } catch (error) {
      if (asked === plan.value) [total.value, trouble.value] = [null, error instanceof Error ? error.message : '']
    }
  },
  { debounce: 250, immediate: true },
)
const does = computed(() => {
  if (seeking.value) return total.value ? `Seek with ${count(total.value)} tries` : 'Seek'
  return total.value ? `Make ${count(total.value)} variant${total.value === 1 ? '' : 's'}` : 'Make variants'
})
</script>

<template>
  <form class="plan" novalidate data-test="plan" @submit.prevent="total && emit('make', plan, title)">
    <ElFormItem v-if="!extending" label="Title">
      <ElInput v-model="title" placeholder="proof sheet" maxlength="200" aria-label="Title" />
    </ElFormItem>
    <ElSegmented v-if="!extending" v-model="seeking" :options="MODES" aria-label="What is made" data-test="plan-mode" />
    <h4>Turn</h4>
    <p v-if="!turns.length" class="faint">This graph has no dials; name a parameter below, or add dials first.</p>
    <div v-for="turn in turns" :key="turn.name" class="turn" :data-test="`turn-${turn.name}`">
      <span class="name" :title="dials[turn.name]?.help || turn.name">{{ turn.name.replaceAll('_', ' ') }}</span>
      <Choice
        :value="turn.how"
        :entries="hows(turn.name)"
        :label="`How ${turn.name} is turned`"
        @choose="turn.how = $event as How"
      />
      <span v-if="turn.how === 'stays'" class="faint">{{ valueOf(turn.name) }}</span>
      <span v-else-if="turn.how === 'list'" class="fields">
        <ElInput v-model="turn.list" placeholder="0.1, 0.2, 0.5" :aria-label="`Values of ${turn.name}`" />
        <span class="faint">{{ unitOf(turn.name) }}</span>
      </span>
      <span v-else-if="turn.how === 'normal'" class="fields">
        <label>middle <ElInputNumber v-model="turn.middle" :controls="false" /></label>
        <label title="two thirds are within this of the middle"
          >spread <ElInputNumber v-model="turn.deviation" :min="0" :controls="false"
        /></label>
        <span class="faint">{{ unitOf(turn.name) }}</span>
      </span>
      <span v-else class="fields">
        <label>from <ElInputNumber v-model="turn.low" :controls="false" /></label>
        <label>to <ElInputNumber v-model="turn.high" :controls="false" /></label>
        <label v-if="turn.how === 'even'"
          >in <ElInputNumber v-model="turn.steps" :min="1" :max="1000" :controls="false" /> steps</label
        >
        <span class="faint">{{ unitOf(turn.name) }}</span>
      </span>
    </div>
    <div class="turn">
      <ElInput
        v-model="other.name"
        placeholder="node.parameter"
        aria-label="A parameter of a node"
        title="any parameter, by the name of its node: ridges.distance"
      />
      <ElInput
        v-model="other.list"
        class="wide"
        placeholder="0.1, 0.2 or 0.1:0.5:9 or uniform(0.1, 0.5)"
        aria-label="Its values"
      />
    </div>
    <div v-if="drawn || seeking" class="turn">
      <span class="name">{{ seeking ? 'tries' : 'draws' }}</span>
      <span class="fields rest">
        <ElInputNumber
          v-if="seeking"
          v-model="tries"
          :min="1"
          :max="2000"
          class="many"
          aria-label="How many tries"
          data-test="tries"
        />
        <template v-else>
          <ElInputNumber
            v-model="draws"
            :min="1"
            :max="10000"
            class="many"
            aria-label="How many draws"
            data-test="draws"
          />
          <Choice
            :value="spread"
            :entries="SPREADS"
            label="How draws are spread"
            @choose="spread = $event as PlanBody['spread']"
          />
        </template>
        <label :title="`another number, other ${seeking ? 'tries' : 'draws'}`"
          >seed <ElInputNumber v-model="seed" :min="0" :controls="false"
        /></label>
      </span>
    </div>
    <SeekForm v-if="seeking" v-model="seek" />
    <BatchForm v-else v-model="batch" :sets="columns.sets" :kept="columns.kept" :settled="!!extending" />
    <template v-if="!extending">
      <h4>Note of each</h4>
      <ElCheckboxGroup v-model="words" size="small">
        <ElCheckboxButton v-for="word in WORDS" :key="word" :value="word">{{ word }}{{ UNITS[word] }}</ElCheckboxButton>
      </ElCheckboxGroup>
      <ElInput
        v-model="lines"
        class="lines"
        type="textarea"
        :rows="2"
        aria-label="Further numbers, one on a line"
        placeholder="further formulas on the whole, one on a line: top = max(geo.points.position.y)"
        spellcheck="false"
        data-test="numbers"
      />
    </template>
    <p v-if="trouble" class="trouble" role="alert" data-test="plan-trouble">{{ trouble }}</p>
    <div class="end">
      <ElButton type="primary" native-type="submit" :disabled="!total" :loading="busy" data-test="make-sheet">
        {{ does }}
      </ElButton>
      <ElButton v-if="extending" @click="emit('cancel')">Cancel</ElButton>
      <span v-if="!total && !trouble" class="faint">{{
        seeking && Object.keys(plan.vary).length ? 'Say what is sought.' : 'Choose what is turned, shapes, or a table.'
      }}</span>
    </div>
  </form>
</template>

<style scoped>
.plan {
  max-width: 620px;
  padding: 4px 2px 12px;
}
h4 {
  margin: 12px 0 6px;
}
.turn {
  display: grid;
  grid-template-columns: 130px 150px minmax(0, 1fr);
  align-items: center;
  gap: 8px;
  min-height: 30px;
}
.turn .wide,
.turn .rest {
  grid-column: 2 / span 2;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.fields {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
}
.fields label {
  display: flex;
  align-items: center;
  gap: 4px;
}
.fields :deep(.el-input-number) {
  width: 74px;
}
.fields :deep(.el-input-number.many) {
  width: 112px;
}
.fields .choice {
  width: 140px;
}
.lines {
  margin-top: 8px;
}
.trouble {
  color: var(--bad);
}
.end {
  display: flex;
  align-items: center;
  gap: 8px;
  margin-top: 14px;
}
</style>
