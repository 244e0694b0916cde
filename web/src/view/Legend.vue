<script setup lang="ts">
/** What the colours mean, with the real range of the values. */
import { count, short } from '../shared/numbers'
import type { Legend } from './colors'

const props = defineProps<{ legend: Legend; kind: string }>()
const plural = (n: number) => `${count(n)} ${props.kind === 'whole' ? '' : n === 1 ? props.kind : `${props.kind}s`}`
</script>

<template>
  <div class="legend" data-test="legend">
    <div class="title">
      <b class="mono">{{ legend.title }}</b> <span class="faint"><template v-if="legend.form === 'range' && legend.unit">in {{ legend.unit }}, </template>per {{ kind }}</span>
    </div>
    <template v-if="legend.form === 'range'">
      <div class="scale" :style="{ background: legend.gradient }" />
      <div class="ends mono">
        <span data-test="legend-low">{{ short(legend.low) }}</span>
        <span v-if="legend.low !== legend.high" class="faint">{{ short((legend.low + legend.high) / 2) }}</span>
        <span data-test="legend-high">{{ short(legend.high) }}</span>
      </div>
      <div v-if="legend.low === legend.high" class="faint">the same everywhere</div>
    </template>
    <template v-else-if="legend.form === 'flag'">
      <div class="row"><i :style="{ background: legend.yes }" />in it: {{ plural(legend.members) }}</div>
      <div class="row"><i :style="{ background: legend.no }" />not: {{ plural(legend.total - legend.members) }}</div>
    </template>
    <template v-else-if="legend.form === 'words'">
      <div v-for="word in legend.words.slice(0, 8)" :key="word.text" class="row"><i :style="{ background: word.color }" />{{ word.text || '(empty)' }}</div>
      <div v-if="legend.words.length > 8" class="faint">and {{ legend.words.length - 8 }} more</div>
    </template>
    <div v-else class="faint">colours as they are, lightly shaded</div>
  </div>
</template>

<style scoped>
.legend {
  position: absolute;
  left: 10px;
  bottom: 10px;
  min-width: 190px;
  max-width: 260px;
  padding: 7px 10px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: color-mix(in srgb, var(--sheet) 92%, transparent);
  font-size: 13px;
  pointer-events: none;
}
.scale {
  height: 10px;
  margin: 5px 0 3px;
  border-radius: 2px;
}
.ends {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
.row {
  display: flex;
  align-items: center;
  gap: 7px;
}
i {
  width: 12px;
  height: 12px;
  border-radius: 2px;
}
</style>
