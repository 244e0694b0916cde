<script setup lang="ts">
/** Below a formula: what it gives for the picked element; the value of the part that is pointed at. */
import { useDebounceFn } from '@vueuse/core'
import { computed, inject, onMounted, ref, watch } from 'vue'
import { partAt } from '../model/live'
import { useCatalogue } from '../stores/useCatalogue'
import { useEvaluation } from '../stores/useEvaluation'
import { useGraph } from '../stores/useGraph'
import { useLive } from '../stores/insight/useLive'
import { textPlaceKey } from '../text/textPlace'

const props = defineProps<{ text: string; parameter: string }>()
const place = inject(textPlaceKey, null)
const live = useLive()
const graph = useGraph()
const { operatorOf } = useCatalogue()
/** A value node runs for whoever its wire goes to: its value is on the wire. */
const writes = computed(() => !!operatorOf(graph.document.value.nodes[place?.node ?? ''])?.makes_value)
const { looks } = useEvaluation()
const name = computed(() => (place?.prefix ?? '') + props.parameter)
const current = computed(() => !!place && live.isAbout(place.node, name.value, props.text))
const found = computed(() => (place ? live.of(place.node, name.value) : null))
const shown = computed(() => (place && current.value ? live.shown(place.node, name.value) : null))
const lines = computed(() => props.text.split('\n'))
const at = ref<{ line: number; column: number } | null>(null)
const part = computed(() =>
  shown.value && at.value ? partAt(shown.value.parts, at.value.line, at.value.column) : null,
)
const picked = computed(() => live.picked.value.element !== null || found.value?.kind === 'whole')

const ask = useDebounceFn(() => {
  if (place && !writes.value && props.text.trim() && live.picked.value.element !== null)
    void live.ask(place.node, name.value, props.text)
}, 160)
onMounted(ask)
watch(() => [props.text, live.picked.value.kind, live.picked.value.element, looks.value?.key], ask)

function isIn(line: number, column: number): boolean {
  const { value } = part
  return !!value && value.line === line && value.column <= column && column < value.column + value.length
}
</script>

<template>
  <div
    v-if="picked && found && text.trim() && !writes"
    class="live"
    :class="{ old: !current }"
    data-test="live-formula"
  >
    <p v-if="found.element === null" class="faint">{{ found.missing }}</p>
    <template v-else>
      <p v-for="(line, number) in lines" :key="number" class="mono line" @mouseleave="at = null">
        <span
          v-for="(letter, column) in line"
          :key="column"
          :class="{ in: isIn(number + 1, column + 1) }"
          @mouseenter="at = { line: number + 1, column: column + 1 }"
          >{{ letter }}</span
        >
        <b v-if="shown?.lines.get(number + 1)" class="live-value">{{ shown.lines.get(number + 1) }}</b>
      </p>
      <p class="faint told">
        <template v-if="part"
          ><span class="mono">{{ part.text }}</span> · {{ part.type }}</template
        >
        <template v-else>for {{ found.kind === 'whole' ? 'all' : `${found.kind} ${found.element}` }}</template>
      </p>
    </template>
  </div>
</template>

<style scoped>
.live {
  flex: 1 1 100%;
  min-width: 0;
  margin: 1px 0 3px;
  padding: 1px 7px;
  border-left: 3px solid var(--live-ink);
  font-size: 12.5px;
}
.live.old {
  opacity: 0.6;
}
p {
  margin: 0;
  overflow-wrap: anywhere;
}
.line {
  white-space: pre-wrap;
  color: var(--faint-ink);
}
.in {
  color: var(--ink);
  background: var(--live-wash);
}
</style>
