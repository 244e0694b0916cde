<script setup lang="ts">
/** Two to four numbers, or one formula that gives a vector. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { isFormula } from '../model/values/formula'
import NumberField from './NumberField.vue'

const props = defineProps<{
  value: unknown
  label: string
  unit?: string
  step?: number | null
  low?: number | null
  whole?: boolean
  invalid?: boolean
  size: number
  parameter?: string
  plain?: boolean
}>()
const emit = defineEmits<{ preview: [value: unknown]; commit: [value: unknown] }>()
const numbers = computed(() => (Array.isArray(props.value) ? (props.value as number[]) : []))

function changed(at: number, value: unknown): unknown {
  if (isFormula(value)) return value
  return numbers.value.map((number, i) => (i === at ? value : number))
}

function toFormula() {
  emit('commit', { formula: `vec${props.size}(${numbers.value.join(', ')})` })
}

function toNumbers() {
  emit(
    'commit',
    Array.from({ length: props.size }, () => 0),
  )
}
</script>

<template>
  <div class="vector">
    <template v-if="isFormula(value)">
      <NumberField
        :value="value"
        :label="label"
        :parameter="parameter"
        formulas
        :invalid="invalid"
        @preview="emit('preview', isFormula($event) ? $event : { formula: String($event) })"
        @commit="emit('commit', isFormula($event) ? $event : { formula: String($event) })"
      />
      <ElButton class="swap" text title="Back to plain numbers" :aria-label="`${label} as numbers`" @click="toNumbers">
        123
      </ElButton>
    </template>
    <template v-else>
      <label v-for="(number, i) in numbers" :key="i" class="part">
        <span class="faint mono">{{ 'xyzw'[i] }}</span>
        <NumberField
          :value="number"
          :label="`${label} ${'xyzw'[i]}`"
          :step="step"
          :low="low"
          :whole="whole"
          :invalid="invalid"
          no-slider
          @preview="emit('preview', changed(i, $event))"
          @commit="emit('commit', changed(i, $event))"
        />
      </label>
      <span v-if="unit" class="faint">{{ unit }}</span>
      <ElButton
        v-if="!plain"
        class="swap"
        text
        title="Write a formula instead"
        :aria-label="`${label} as formula`"
        @click="toFormula"
      >
        ƒ
      </ElButton>
    </template>
  </div>
</template>

<style scoped>
.vector {
  display: flex;
  align-items: center;
  gap: 4px;
  flex: 1;
  min-width: 0;
}
.part {
  display: flex;
  align-items: center;
  gap: 2px;
  flex: 1;
  min-width: 0;
}
.part :deep(.short) {
  width: 100%;
  flex: 1 1 30px;
  padding: 3px 4px;
}
.swap {
  padding: 2px 5px;
  min-height: 24px;
  color: var(--faint-ink);
}
</style>
