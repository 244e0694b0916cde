<script setup lang="ts">
/** The controls that a script declares, as fields; values that it does not declare any more are kept, and said. */
import { ElButton } from 'element-plus'
import { computed, inject, provide } from 'vue'
import type { ParameterState } from '../api/client'
import { useTime } from '../stores/useTime'
import { textPlaceKey } from '../text/textPlace'
import ParameterField from './ParameterField.vue'

const props = defineProps<{
  controls: ParameterState[] | null
  value: Record<string, unknown>
  shapes: string[]
  /** What those with keys are at the frame that is shown. */
  served?: Record<string, unknown>
}>()
const emit = defineEmits<{ preview: [value: Record<string, unknown>]; commit: [value: Record<string, unknown>] }>()

const time = useTime()
const place = inject(textPlaceKey, null)
if (place) provide(textPlaceKey, { node: place.node, prefix: 'controls.' })

const left = computed(() =>
  Object.keys(props.value).filter((name) => !props.controls?.some((control) => control.name === name)),
)

function withValue(control: ParameterState, typed: unknown, plain = false): Record<string, unknown> {
  const next = { ...props.value }
  const value = plain ? typed : time.turned(props.value[control.name], typed, control.widget)
  if (JSON.stringify(value) === JSON.stringify(control.default)) delete next[control.name]
  else next[control.name] = value
  return next
}

function forget(name: string) {
  const next = { ...props.value }
  delete next[name]
  emit('commit', next)
}
</script>

<template>
  <div class="controls" data-test="controls">
    <ParameterField
      v-for="control in controls ?? []"
      :key="control.name"
      :parameter="control"
      :value="value[control.name] ?? control.default"
      :values="value"
      :shapes="shapes"
      :served="served?.[control.name]"
      @preview="emit('preview', withValue(control, $event))"
      @commit="(typed, plain) => emit('commit', withValue(control, typed, plain))"
    />
    <p v-if="controls && !controls.length" class="faint">
      The text declares no controls, e.g. <code>reach: number(0, 2) = 0.4</code>
    </p>
    <p v-for="name in controls ? left : []" :key="name" class="faint">
      ‘{{ name }}’ is not declared any more; its value is kept.
      <ElButton text @click="forget(name)">forget it</ElButton>
    </p>
  </div>
</template>

<style scoped>
.controls {
  display: flex;
  flex-direction: column;
  gap: 3px;
}
p {
  margin: 2px 0;
  font-size: 13px;
}
</style>
