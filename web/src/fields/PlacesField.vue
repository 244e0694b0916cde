<script setup lang="ts">
/** A list of places: typed, taken away, gone on with, or dragged in the view, where the one that is held is marked. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { count } from '../shared/numbers'
import { useHeldPlace } from '../stores/useHeldPlace'
import VectorField from './VectorField.vue'

type Place = [number, number, number]
const props = defineProps<{ value: Place[]; label: string; unit?: string; invalid?: boolean }>()
const emit = defineEmits<{ preview: [value: Place[]]; commit: [value: Place[]] }>()
const MOST = 60
const held = useHeldPlace()
const shown = computed(() => props.value.slice(0, MOST))

const changed = (at: number, place: unknown) => props.value.map((one, n) => (n === at ? (place as Place) : one))
const without = (at: number) => props.value.filter((_, n) => n !== at)

/** One more place, as far on as the last two are apart. */
function goOn() {
  const [before, last] = [props.value.at(-2), props.value.at(-1) ?? ([0, 0, 0] as Place)]
  const next = last.map((part, axis) =>
    Number((before ? 2 * part - before[axis]! : part + (axis === 0 ? 0.25 : 0)).toFixed(5)),
  ) as Place
  emit('commit', [...props.value, next])
  held.value = props.value.length
}
</script>

<template>
  <div class="places" data-test="places">
    <div v-for="(place, n) in shown" :key="n" class="row" :class="{ held: held === n }">
      <ElButton
        class="small"
        text
        :aria-pressed="held === n"
        :aria-label="`Hold place ${n + 1} in the view`"
        @click="held = n"
      >
        {{ n + 1 }}
      </ElButton>
      <VectorField
        :value="place"
        :label="`${label} ${n + 1}`"
        :size="3"
        :invalid="invalid"
        plain
        @preview="emit('preview', changed(n, $event))"
        @commit="emit('commit', changed(n, $event))"
      />
      <ElButton
        class="small"
        text
        :disabled="value.length < 2"
        :aria-label="`Take away place ${n + 1}`"
        title="Take it away"
        @click="emit('commit', without(n))"
      >
        ×
      </ElButton>
    </div>
    <p class="faint">
      <template v-if="value.length > MOST">and {{ count(value.length - MOST) }} more; </template>in {{ unit || 'm' }}
      <ElButton class="small" data-test="add-place" @click="goOn">one more</ElButton>
    </p>
  </div>
</template>

<style scoped>
.places {
  flex: 1 1 100%;
  min-width: 0;
  max-height: 190px;
  overflow: auto;
}
.row {
  display: flex;
  align-items: center;
  gap: 2px;
}
.small {
  min-height: 24px;
  padding: 0 6px;
  font-size: 12.5px;
}
p {
  margin: 4px 0 0;
  font-size: 12.5px;
}
</style>
