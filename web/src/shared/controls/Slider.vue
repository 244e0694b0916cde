<script setup lang="ts">
/** A value within a range, with a mark where it stands unless it is changed. */
import { ElSlider } from 'element-plus'
import { computed, ref, watch } from 'vue'

const props = defineProps<{
  value: number
  low: number
  high: number
  step: number
  label: string
  /** What it has unless it is changed: marked. */
  usual?: number | null
}>()
const emit = defineEmits<{ turn: [value: number]; settle: [value: number] }>()
/** Where it stands while it is dragged, whatever becomes of that. */
const draft = ref(props.value)
watch(
  () => props.value,
  (value) => (draft.value = value),
)
const marks = computed(() =>
  typeof props.usual === 'number' && props.usual > props.low && props.usual < props.high
    ? { [props.usual]: '' }
    : undefined,
)
</script>

<template>
  <ElSlider
    class="slider"
    v-model="draft"
    :min="low"
    :max="high"
    :step="step"
    :marks="marks"
    :aria-label="label"
    :show-tooltip="false"
    @input="emit('turn', $event as number)"
    @change="emit('settle', draft)"
  />
</template>

<style scoped>
.slider {
  flex: 1;
  width: auto;
  min-width: 52px;
  margin: 0 7px;
}
</style>
