<script setup lang="ts">
/** The control that fits a parameter, with its label, help and error. */
import { entriesOf } from '../shared/controls/choices'
import TextField from '../shared/controls/TextField.vue'
import Choice from '../shared/controls/Choice.vue'
import { aboutType } from '../stores/attributeTypes'
import { ElButton, ElSwitch } from 'element-plus'
import { computed } from 'vue'
import type { ParameterState } from '../api/client'
import type { Kind, Summary } from '../api/results'
import FormulaField from './FormulaField.vue'
import GradientField from './GradientField.vue'
import type { Stop } from '../model/values/gradient'
import type { CurvePoint } from '../model/values/responseCurve'
import { toText } from '../model/values/formula'
import { canHaveKeys, isKeyed } from '../model/time/keyedValues'
import { followsInWords, isFollowing } from '../model/time/following'
import { short } from '../shared/numbers'
import { useTime } from '../stores/useTime'
import KeyMark from './KeyMark.vue'
import NumberField from './NumberField.vue'
import PickedField from './PickedField.vue'
import PlacesField from './PlacesField.vue'
import ResponseField from './ResponseField.vue'
import VectorField from './VectorField.vue'

const props = defineProps<{
  parameter: ParameterState
  value: unknown
  values: Record<string, unknown>
  error?: string
  /** What a value with keys is at the frame that is shown, if the service said so. */
  served?: unknown
  /** It is not a value that can differ from frame to frame, e.g. a default. */
  still?: boolean
  /** What the input of this parameter holds, if it is known. */
  summary?: Summary | null
  shapes: string[]
}>()
/** `plain`: it is to be stored as it is; else a key may be set. */
const emit = defineEmits<{ preview: [value: unknown]; commit: [value: unknown, plain?: boolean] }>()

const time = useTime()
const shown = computed(() => time.now(props.value, props.served))

const now = computed(() => {
  if (props.served === undefined) return ''
  const text = [props.served].flat().map((one) => (typeof one === 'number' ? short(one) : toText(one)))
  return `${text.join(', ')} ${props.parameter.unit}`.trim()
})

const kind = computed<Kind | null>(() => {
  const on = props.parameter.on
  if (!on) return (props.values.kind as Kind) ?? null
  return (
    ['point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole'].includes(on) ? on : props.values[on]
  ) as Kind
})
const changed = computed(() => JSON.stringify(props.value) !== JSON.stringify(props.parameter.default))
const found = computed(() => (kind.value && props.summary?.attributes[kind.value]) || [])
const groups = computed(() => found.value.filter((entry) => entry.type === 'flag').map((entry) => entry.name))
const readable = computed(() => [
  ...groups.value,
  ...found.value.filter((e) => e.type !== 'flag').map((e) => e.name),
  ...((kind.value && props.summary?.built_in[kind.value]) || []),
])
const everyName = computed(() =>
  [
    ...new Set(
      Object.values(props.summary?.attributes ?? {})
        .flat()
        .map((entry) => entry.name),
    ),
  ].filter((name) => name !== 'position'),
)
const vectorLike = computed(
  () =>
    ['vector', 'color'].includes(props.parameter.widget) || aboutType(props.parameter.type ?? '').shown === 'vector',
)
const size = computed(() => props.parameter.size ?? (aboutType(props.parameter.type ?? '').parts.length || 3))
const shapeEntries = computed(() => [
  { value: '', label: 'choose a shape of this project' },
  ...(props.value && !props.shapes.includes(props.value as string)
    ? [{ value: props.value as string, label: `${props.value as string} (not here)` }]
    : []),
  ...entriesOf(props.shapes),
])
const where = computed(() => (kind.value ? `all ${kind.value}s` : 'formula'))
</script>

<template>
  <div class="field" :data-test="`field-${parameter.name}`">
    <div class="line">
      <span class="label" :class="{ changed }" :title="parameter.help">
        {{ parameter.label }}
        <ElButton
          v-if="changed"
          class="reset"
          :title="`Back to the default: ${toText(parameter.default) || 'empty'}`"
          :aria-label="`Reset ${parameter.label}`"
          @click="emit('commit', parameter.default, true)"
        >
          ↺
        </ElButton>
      </span>
      <span v-if="isFollowing(value)" class="grow follows" :data-test="`follows-${parameter.name}`">
        <b>{{ now }}</b>
        <span class="faint">{{ followsInWords(value) }}</span>
        <ElButton
          text
          :title="`Stop following the table; the value is ${toText(value.otherwise)} again, as before`"
          @click="emit('commit', value.otherwise, true)"
        >
          stop
        </ElButton>
      </span>
      <ElSwitch
        v-else-if="parameter.widget === 'toggle'"
        :model-value="shown as boolean"
        :aria-label="parameter.label"
        size="small"
        @update:model-value="emit('commit', $event)"
      />
      <Choice
        v-else-if="parameter.widget === 'choice'"
        class="grow"
        :value="shown as string"
        :entries="(parameter.options ?? []).map((option) => ({ ...option, label: option.value }))"
        :label="parameter.label"
        @choose="emit('commit', $event)"
      />
      <VectorField
        v-else-if="vectorLike"
        :parameter="parameter.name"
        :value="shown"
        :label="parameter.label"
        :size="size"
        :unit="parameter.unit"
        :step="parameter.step"
        :low="parameter.low"
        :whole="parameter.whole ?? false"
        :invalid="!!error"
        @preview="emit('preview', $event)"
        @commit="emit('commit', $event)"
      />
      <FormulaField
        v-else-if="parameter.widget === 'where'"
        :parameter="parameter.name"
        :value="shown as string"
        :label="parameter.label"
        :options="groups"
        :placeholder="where"
        :invalid="!!error"
        @preview="emit('preview', $event)"
        @commit="emit('commit', $event)"
      />
      <FormulaField
        v-else-if="parameter.widget === 'names'"
        :value="shown as string"
        :label="parameter.label"
        :options="everyName"
        :invalid="!!error"
        @preview="emit('preview', $event)"
        @commit="emit('commit', $event)"
      />
      <FormulaField
        v-else-if="parameter.widget === 'attribute'"
        :value="shown as string"
        :label="parameter.label"
        :options="found.map((e) => e.name)"
        single
        :invalid="!!error"
        @preview="emit('preview', $event)"
        @commit="emit('commit', $event)"
      />
      <FormulaField
        v-else-if="parameter.widget === 'new name'"
        :value="shown as string"
        :label="parameter.label"
        single
        :invalid="!!error"
        @preview="emit('preview', $event)"
        @commit="emit('commit', $event)"
      />
      <ResponseField
        v-else-if="parameter.widget === 'response curve'"
        :value="shown as CurvePoint[]"
        :label="parameter.label"
        :soft="parameter.soft"
        :low="parameter.low"
        @preview="emit('preview', $event)"
        @commit="emit('commit', $event)"
      />
      <GradientField
        v-else-if="parameter.widget === 'gradient'"
        :value="shown as Stop[]"
        :label="parameter.label"
        @preview="emit('preview', $event)"
        @commit="emit('commit', $event)"
      />
      <PlacesField
        v-else-if="parameter.widget === 'places'"
        :value="shown as [number, number, number][]"
        :label="parameter.label"
        :unit="parameter.unit"
        :invalid="!!error"
        @preview="emit('preview', $event)"
        @commit="emit('commit', $event)"
      />
      <PickedField
        v-else-if="parameter.widget === 'picked'"
        :value="shown as string[]"
        :label="parameter.label"
        :kind="kind"
        @commit="emit('commit', $event)"
      />
      <span v-else-if="parameter.widget === 'edits'" class="grow edits"
        >{{ Object.keys(shown as object).length }} by hand, in the ledger</span
      >
      <span v-else-if="parameter.widget === 'strokes'" class="grow edits"
        >{{ (shown as unknown[]).length }}, painted in the view</span
      >
      <TextField
        v-else-if="parameter.widget === 'text'"
        class="grow"
        :lines="2"
        :value="shown as string"
        :label="parameter.label"
        @type="emit('preview', $event)"
        @settle="emit('commit', $event)"
      />
      <Choice
        v-else-if="parameter.widget === 'shape'"
        class="grow"
        :value="shown as string"
        :entries="shapeEntries"
        :label="parameter.label"
        hint="choose a shape of this project"
        @choose="emit('commit', $event)"
      />
      <FormulaField
        v-else-if="parameter.type === 'as chosen' || parameter.type === 'any'"
        :parameter="parameter.name"
        :value="toText(shown)"
        :label="parameter.label"
        :options="readable"
        :invalid="!!error"
        @preview="emit('preview', { formula: $event })"
        @commit="emit('commit', /^[-+\d.]+$/.test($event) ? Number($event) : { formula: $event })"
      />
      <NumberField
        v-else
        :parameter="parameter.takes_formula ? parameter.name : undefined"
        :value="shown"
        :label="parameter.label"
        :soft="parameter.soft"
        :low="parameter.low"
        :high="parameter.high"
        :step="parameter.step"
        :unit="parameter.unit"
        :usual="parameter.default"
        :whole="parameter.widget === 'integer'"
        :formulas="parameter.takes_formula"
        :options="parameter.on ? readable : []"
        :invalid="!!error"
        @preview="emit('preview', $event)"
        @commit="emit('commit', $event)"
      />
      <KeyMark
        v-if="!still && (isKeyed(value) || (time.visible.value && canHaveKeys(parameter.widget, value)))"
        :stored="value"
        :now="shown"
        :label="parameter.label"
        :name="parameter.name"
        @change="emit('commit', $event, true)"
      />
    </div>
    <div v-if="error" class="error" role="alert">{{ error }}</div>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  align-items: flex-start;
  gap: 8px;
  min-height: 30px;
}
.line:has(.places) {
  flex-wrap: wrap;
}
.label {
  flex: 0 0 100px;
  padding-top: 5px;
  color: var(--faint-ink);
  font-size: 13px;
  line-height: 1.25;
  cursor: help;
}
.changed {
  color: var(--ink);
  font-weight: 600;
}
.reset {
  border: 0;
  padding: 0 2px;
  background: none;
  color: var(--accent);
  cursor: pointer;
}
.follows {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding-top: 4px;
  font-size: 13px;
}
.follows .faint {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.edits {
  padding-top: 5px;
  font-size: 13px;
}
.grow {
  flex: 1;
  min-width: 0;
}
.error {
  margin: 1px 0 3px 108px;
  color: var(--bad);
  font-size: 13px;
  overflow-wrap: anywhere;
}
</style>
