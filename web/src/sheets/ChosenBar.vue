<script setup lang="ts">
/** What is chosen on the wall, and what can be done with it. */
import { ElButton, ElMessage } from 'element-plus'
import { computed } from 'vue'
import { keepPreset, presetOf } from '../model/presets'
import { said, type Variant } from '../model/sheets'
import { askName } from '../shared/askName'
import { useGraph } from '../stores/useGraph'
import { useSheets } from './useSheets'

const sheets = useSheets()
const graph = useGraph()
const chosen = computed(() => sheets.variants.value.filter((one) => sheets.chosen.value.has(one.number)))
const one = computed(() => (chosen.value.length === 1 ? chosen.value[0]! : null))
const words = computed(() =>
  one.value
    ? sheets.columns.value
        .slice(1)
        .map((each) => said(each, one.value!))
        .join(' · ')
    : '',
)
const warnings = computed(() => one.value?.warnings.join('\n') ?? '')
const whyNot = computed(() => {
  if (!sheets.isOwn.value) return 'This sheet is of another graph; open that one first.'
  if (graph.past.value) return 'The graph is shown as it was; return to now first.'
  return graph.lookOnly.value ? 'You may only look.' : ''
})
const preset = computed(() => one.value && presetOf(graph.root.value, one.value.values))
const nameOf = ({ number, values }: Variant) => (typeof values.name === 'string' ? values.name : `variant ${number}`)
async function keep() {
  const values = preset.value
  if (!one.value || !values) return
  const name = await askName('Keep this variant as a preset', 'Keep', { offered: nameOf(one.value) })
  if (!name) return
  graph.edit(`keep the preset ${name}`, (next) => keepPreset(next, name, values), graph.path.value.length)
  ElMessage({ type: 'success', message: `‘${name}’ is among the presets of the dials now.` })
}
function take() {
  if (!one.value) return
  sheets.put(one.value)
  ElMessage({ type: 'success', message: `The graph is variant ${one.value.number} now; undo takes that back.` })
  sheets.open.value = false
}
</script>

<template>
  <div class="chosen" data-test="chosen">
    <template v-if="one">
      <b>{{ one.number }}</b>
      <span class="words" :class="{ bad: one.error }" :title="one.error || words">{{ one.error || words }}</span>
      <span v-if="warnings" class="warn" :title="warnings">{{ one.warnings.length }} warnings</span>
      <ElButton
        :disabled="!!whyNot || !preset"
        :title="
          whyNot ||
          (preset
            ? 'keep what its dials are turned to under a name'
            : 'It turns values of cards, or no dials; a preset holds dials alone.')
        "
        data-test="keep-variant"
        @click="keep"
        >Keep as preset…</ElButton
      >
      <ElButton
        type="primary"
        :disabled="!!whyNot || one.state === 'open'"
        :title="whyNot || 'turn the graph’s dials to these values'"
        data-test="take-variant"
        @click="take"
        >Take into the graph</ElButton
      >
    </template>
    <template v-else-if="chosen.length">
      <b>{{ chosen.length }} chosen</b>
      <span class="words faint">{{
        sheets.comparing.value ? 'Drag to turn all, the wheel brings them nearer.' : ''
      }}</span>
    </template>
    <span v-else class="faint words">Click a picture to choose it, with Shift several; drag to turn all of them.</span>
    <ElButton
      v-if="chosen.length > 1 || sheets.comparing.value"
      data-test="compare"
      :aria-pressed="sheets.comparing.value"
      @click="sheets.comparing.value = !sheets.comparing.value"
      >{{ sheets.comparing.value ? 'Back to the wall' : 'Compare' }}</ElButton
    >
  </div>
</template>

<style scoped>
.chosen {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 40px;
  padding: 4px 10px;
  border-top: 1px solid var(--line);
  background: var(--sheet);
}
.words {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.bad {
  color: var(--bad);
}
.warn {
  color: var(--warn);
  white-space: nowrap;
}
</style>
