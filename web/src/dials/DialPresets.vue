<script setup lang="ts">
/** Presets of the graph: its dials are turned to one, or kept as one. */
import { computed } from 'vue'
import { keepPreset, presetOn, standing, takePreset } from '../model/presets'
import { askName } from '../shared/askName'
import Choice from '../shared/controls/Choice.vue'
import { useGraph } from '../stores/useGraph'

const KEEP = '+'
const DROP = '-'
const graph = useGraph()
const on = computed(() => presetOn(graph.document.value))
const names = computed(() => Object.keys(graph.document.value.presets ?? {}))
const groups = computed(() => [
  { title: '', entries: names.value.map((name) => ({ value: `=${name}`, label: name })) },
  {
    title: '',
    entries: [
      { value: KEEP, label: 'Keep these values as a preset …' },
      ...(on.value ? [{ value: DROP, label: `Remove the preset ${on.value}` }] : []),
    ],
  },
])

async function choose(what: string) {
  if (what === KEEP) {
    const name = await askName('Keep these values as a preset', 'Keep')
    if (name) graph.edit(`keep the preset ${name}`, (next) => keepPreset(next, name, standing(next)))
  } else if (what === DROP) {
    const gone = on.value
    graph.edit(`remove the preset ${gone}`, (next) => delete next.presets![gone])
  } else graph.edit(`take the preset ${what.slice(1)}`, (next) => takePreset(next, what.slice(1)))
}
</script>

<template>
  <Choice
    class="presets"
    :value="on ? `=${on}` : undefined"
    :groups="groups"
    :off="graph.fixed.value"
    label="Presets of the dials"
    hint="presets …"
    data-test="graph-presets"
    @choose="choose"
  />
</template>

<style scoped>
.presets {
  flex: none;
  width: 104px;
}
</style>
