<script setup lang="ts">
/** A list of conditions: what must hold of a geometry. */
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

function add(event: Event) {
  const select = event.target as HTMLSelectElement
  const what = select.value
  select.value = ''
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
      <select
        v-if="outputs && outputs.length > 1"
        class="text"
        :value="condition.output ?? outputs[0]"
        aria-label="Output"
        @change="set(at, { output: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="name in outputs" :key="name">{{ name }}</option>
      </select>
      <select
        v-if="needs(condition).includes('kind')"
        class="text"
        :value="condition.kind"
        aria-label="Kind"
        @change="set(at, { kind: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="kind in KINDS" :key="kind">{{ kind }}</option>
      </select>
      <input
        v-if="needs(condition).includes('name')"
        class="text mono"
        :value="condition.name"
        aria-label="Name of the attribute"
        placeholder="name"
        @change="set(at, { name: ($event.target as HTMLInputElement).value.trim() })"
      />
      <input
        v-if="needs(condition).includes('value')"
        class="text"
        inputmode="decimal"
        :value="condition.value"
        aria-label="Least area in square metres"
        @change="set(at, { value: Number(($event.target as HTMLInputElement).value) || 0 })"
      />
      <input
        v-if="needs(condition).includes('formula')"
        class="text mono"
        :value="condition.formula"
        aria-label="Formula"
        @change="set(at, { formula: ($event.target as HTMLInputElement).value })"
      />
      <select
        v-if="needs(condition).includes('input')"
        class="text"
        :value="condition.input"
        aria-label="Input"
        @change="set(at, { input: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="name in inputs" :key="name">{{ name }}</option>
      </select>
      <button
        type="button"
        class="plain"
        aria-label="Remove this condition"
        @click="
          emit(
            'change',
            conditions.filter((_, number) => number !== at),
          )
        "
      >
        ×
      </button>
    </span>
    <select class="text add" aria-label="Add a condition" @change="add">
      <option value="">+ {{ outputs ? 'promise' : 'expects' }} …</option>
      <option v-for="entry in usable" :key="entry.what" :value="entry.what">{{ entry.label }}</option>
    </select>
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
.one .text {
  width: 92px;
  min-height: 24px;
}
.one .mono {
  width: 120px;
}
.one .plain {
  padding: 0 6px;
  min-height: 24px;
}
.add {
  width: 120px;
  min-height: 26px;
}
</style>
