<script setup lang="ts">
/** The handle that is held: its numbers while it is dragged, the card's other handles, and snapping. */
import { ElCheckbox } from 'element-plus'
import Choice from '../../shared/controls/Choice.vue'
import { computed } from 'vue'
import { short } from '../../shared/numbers'
import { STEPS, type Target } from '../../model/values/handleValues'

const props = defineProps<{ targets: Target[]; held: Target }>()
const which = defineModel<number>('which', { required: true })
const snapping = defineModel<boolean>('snapping', { required: true })
const steps = computed(() =>
  props.held.shape === 'turn' || props.held.shape === 'direction' || props.held.shape === 'plane'
    ? `${STEPS.turn}°`
    : props.held.shape === 'scale'
      ? `${STEPS.scale}`
      : `${STEPS.place * 100} cm`,
)
</script>

<template>
  <div class="held floating" data-test="handle">
    <span v-if="targets.length === 1"
      ><b>{{ held.label }}</b></span
    >
    <Choice
      v-else
      class="which"
      :value="String(which)"
      :entries="targets.map((target, n) => ({ value: String(n), label: target.label }))"
      label="What is dragged"
      data-test="handle-of"
      @choose="which = Number($event)"
    />
    <span class="mono" data-test="handle-value">{{ held.value.map((part) => short(part)).join(', ') }}</span>
    {{ held.unit }}
    <ElCheckbox v-model="snapping" :title="`Move in steps of ${steps}`" data-test="snap">snap</ElCheckbox>
  </div>
</template>

<style scoped>
.held {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 8px;
  padding: 2px 10px;
}
.which {
  width: 130px;
}
</style>
