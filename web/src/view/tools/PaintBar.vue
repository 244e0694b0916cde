<script setup lang="ts">
/** While painting: a simulated pen for a mouse, how hard it is pressed, and the strokes there are. */
import { count } from '../../shared/numbers'

defineProps<{ strokes: number; pressure: number }>()
defineEmits<{ reset: [] }>()
const simulated = defineModel<boolean>('simulated', { required: true })
</script>

<template>
  <div class="paint floating" data-test="paint-bar">
    <label title="A mouse paints like a pen: slow strokes press harder. A real pen’s pressure always counts."
      ><input v-model="simulated" type="checkbox" data-test="simulated-pen" /> as a pen</label
    >
    <meter min="0" max="1" :value="pressure" aria-label="Pressure" title="How hard the pen is pressed" />
    <span class="faint">{{ count(strokes) }} {{ strokes === 1 ? 'stroke' : 'strokes' }}</span>
    <button
      class="plain"
      :disabled="!strokes"
      title="Take all strokes back; undo brings them again"
      data-test="reset-strokes"
      @click="$emit('reset')"
    >
      reset
    </button>
  </div>
</template>

<style scoped>
.paint {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 2px 10px;
}
meter {
  width: 54px;
}
.plain {
  min-height: 24px;
  padding: 0 6px;
}
</style>
