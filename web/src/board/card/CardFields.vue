<script setup lang="ts">
/** The parameters of an open card, by section. */
import { computed, inject, ref, watch } from 'vue'
import type { ParameterState } from '../../api/client'
import { shapesKey } from '../../stores/injectionKeys'
import { useText } from '../../stores/useText'
import ParameterRow from './ParameterRow.vue'
import type { CardState } from './useCard'
import { useCardEdits } from './useCardEdits'
import { useInputSummaries } from './useInputSummaries'

const props = defineProps<{ card: CardState }>()
const { id, declared, report, inputs, values, visible, errorOf } = props.card
const { preview, commit } = useCardEdits(props.card)
const summaries = useInputSummaries(props.card, () => true)
const shapes = inject(shapesKey, ref<string[]>([]))
const texts = useText()

/** Parameters by section, in the order in which sections come up. */
const sections = computed(() => {
  const found = new Map<string, ParameterState[]>()
  for (const parameter of visible.value)
    found.set(parameter.section ?? '', [...(found.get(parameter.section ?? '') ?? []), parameter])
  return [...found].map(([section, parameters]) => ({ section, parameters }))
})

/** A script's text, and the controls that it declares. */
const source = computed(() => (visible.value.some((p) => p.widget === 'script') ? String(values.value.source) : null))
const controls = computed(() => texts.of(id, 'source')?.controls ?? null)
watch(
  [source, () => report.value?.key],
  () => {
    if (source.value !== null && !texts.isAbout(id, 'source', source.value)) void texts.ask(id, 'source', source.value)
  },
  { immediate: true },
)
</script>

<template>
  <div v-if="declared" class="fields nodrag nowheel nopan">
    <template v-for="group in sections" :key="group.section">
      <b v-if="group.section" class="section">{{ group.section }}</b>
      <ParameterRow
        v-for="parameter in group.parameters"
        :id="id"
        :key="parameter.name"
        :operator="declared"
        :parameter="parameter"
        :value="values[parameter.name]"
        :values="values"
        :error="errorOf(parameter.name)"
        :summary="summaries[parameter.of ?? 'geo'] ?? summaries[inputs[0]?.name ?? '']"
        :shapes="shapes"
        :controls="controls"
        @preview="preview(parameter.name, $event)"
        @commit="commit(parameter.name, $event)"
      />
    </template>
    <p v-if="!visible.length" class="faint none">
      {{ declared.holds_graph ? 'No dials yet: open it, and drag a parameter onto the dials.' : 'Nothing to set.' }}
    </p>
  </div>
</template>

<style scoped>
.fields {
  display: flex;
  flex-direction: column;
  gap: 3px;
  margin: 6px 0;
  max-height: 420px;
  overflow: auto;
}
.section {
  margin-top: 5px;
  border-bottom: 1px solid var(--line);
  font-size: 12.5px;
}
.none {
  margin: 2px 0;
  font-size: 13px;
}
</style>
