<script setup lang="ts">
/** A list of conditions: what must hold of a geometry. */
import { entriesOf } from '../shared/controls/choices'
import TextField from '../shared/controls/TextField.vue'
import Choice from '../shared/controls/Choice.vue'
import { ElButton } from 'element-plus'
import { CONDITIONS, type Condition } from '../model/contracts'

const props = defineProps<{ conditions: Condition[]; inputs: string[]; outputs?: string[] }>()
const emit = defineEmits<{ change: [conditions: Condition[]] }>()
const KINDS = ['point', 'edge', 'corner', 'face', 'curve', 'instance', 'whole']
const needs = (condition: Condition) => CONDITIONS.find((entry) => entry.what === condition.what)?.needs ?? []
const usable = CONDITIONS.filter((entry) => props.outputs || entry.what !== 'keeps points')

function set(at: number, values: Partial<Condition>) {
  emit(
    'change',
    props.conditions.map((entry, number) => (number === at ? { ...entry, ...values } : entry)),
  )
}

function add(what: string) {
  const made: Condition = { what }
  if (what === 'attribute') Object.assign(made, { kind: 'point', name: '' })
  if (what === 'least area') made.value = 0.000001
  if (what === 'keeps points') made.input = props.inputs[0] ?? 'geo'
  if (what === 'formula') made.formula = 'high.y > 0'
  emit('change', [...props.conditions, made])
}
</script>

<template>
  <div class="conditions">
    <span v-for="(condition, at) in conditions" :key="at" class="one">
      {{ CONDITIONS.find((entry) => entry.what === condition.what)?.label ?? condition.what }}
      <Choice
        v-if="outputs && outputs.length > 1"
        class="part"
        :value="condition.output ?? outputs[0]"
        :entries="entriesOf(outputs)"
        label="Output"
        @choose="set(at, { output: $event })"
      />
      <Choice
        v-if="needs(condition).includes('kind')"
        class="part"
        :value="condition.kind"
        :entries="entriesOf(KINDS)"
        label="Kind"
        @choose="set(at, { kind: $event })"
      />
      <TextField
        v-if="needs(condition).includes('name')"
        class="part mono"
        :value="condition.name"
        label="Name of the attribute"
        placeholder="name"
        @settle="set(at, { name: $event.trim() })"
      />
      <TextField
        v-if="needs(condition).includes('value')"
        class="part"
        inputmode="decimal"
        :value="condition.value"
        label="Least area in square metres"
        @settle="set(at, { value: Number($event) || 0 })"
      />
      <TextField
        v-if="needs(condition).includes('formula')"
        class="part mono"
        :value="condition.formula"
        label="Formula"
        @settle="set(at, { formula: $event })"
      />
      <Choice
        v-if="needs(condition).includes('input')"
        class="part"
        :value="condition.input"
        :entries="entriesOf(inputs)"
        label="Input"
        @choose="set(at, { input: $event })"
      />
      <ElButton
        text
        aria-label="Remove this condition"
        @click="
          emit(
            'change',
            conditions.filter((_, number) => number !== at),
          )
        "
      >
        ×
      </ElButton>
    </span>
    <Choice
      class="add"
      :entries="usable.map((entry) => ({ value: entry.what, label: entry.label }))"
      :hint="`+ ${outputs ? 'promise' : 'expects'} …`"
      label="Add a condition"
      @choose="add"
    />
  </div>
</template>

<style scoped>
.conditions {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  font-size: 13px;
}
.one {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  padding-left: 7px;
  border: 1px solid var(--line);
  border-radius: 9px;
}
.part {
  width: 92px;
}
.part.mono {
  width: 120px;
}
.one .el-button {
  padding: 0 6px;
  min-height: 24px;
}
.add {
  width: 120px;
}
</style>
