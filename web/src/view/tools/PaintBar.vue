<script setup lang="ts">
/** While painting: a simulated pen for a mouse, how hard it is pressed, and the strokes there are. */
import { ElButton, ElCheckbox, ElProgress } from 'element-plus'
import { count } from '../../shared/numbers'

defineProps<{ strokes: number; pressure: number }>()
defineEmits<{ reset: [] }>()
const simulated = defineModel<boolean>('simulated', { required: true })
</script>

<template>
  <div class="paint floating" data-test="paint-bar">
    <ElCheckbox
      v-model="simulated"
      title="A mouse paints like a pen: slow strokes press harder. A real pen’s pressure always counts."
      data-test="simulated-pen"
      >as a pen</ElCheckbox
    >
    <ElProgress
      class="pressure"
      :percentage="pressure * 100"
      :show-text="false"
      aria-label="Pressure"
      title="How hard the pen is pressed"
    />
    <span class="faint">{{ count(strokes) }} {{ strokes === 1 ? 'stroke' : 'strokes' }}</span>
    <ElButton
      text
      :disabled="!strokes"
      title="Take all strokes back; undo brings them again"
      data-test="reset-strokes"
      @click="$emit('reset')"
    >
      reset
    </ElButton>
  </div>
</template>

<style scoped>
.paint {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 2px 10px;
}
.pressure {
  width: 54px;
}
.el-button {
  min-height: 24px;
  padding: 0 6px;
}
</style>
