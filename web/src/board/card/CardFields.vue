<script setup lang="ts">
/** The parameters of an open card: the main ones, and sections that are opened when they are needed. */
import { ElButton, ElInput } from 'element-plus'
import { computed, inject, ref, watch } from 'vue'
import { shapesKey } from '../../stores/injectionKeys'
import { useText } from '../../stores/useText'
import ParameterRow from './ParameterRow.vue'
import type { CardState } from './useCard'
import { useCardEdits } from './useCardEdits'
import { useSections } from './useSections'
import { useInputSummaries } from './useInputSummaries'

const props = defineProps<{ card: CardState }>()
const { id, declared, report, inputs, values, valuesNow, visible, errorOf } = props.card
const { preview, commit } = useCardEdits(props.card)
const summaries = useInputSummaries(props.card, () => true)
const shapes = inject(shapesKey, ref<string[]>([]))
const texts = useText()

/** Parameters from which on one searches rather than reads. */
const MANY = 10
const words = ref('')
const { sections, isOpen, isNeeded, turn } = useSections(props.card, words)

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
    <ElInput
      v-if="visible.length > MANY"
      v-model="words"
      clearable
      :placeholder="`find one of ${visible.length} parameters`"
      aria-label="Find a parameter"
      data-test="find-parameter"
    />
    <template v-for="group in sections" :key="group.section">
      <ElButton
        v-if="group.section"
        class="section"
        text
        :aria-expanded="isOpen(group)"
        :disabled="isNeeded(group)"
        :title="isNeeded(group) ? 'Open while a wire, a dial or an error is in it' : group.told"
        :data-test="`section-${group.section.replaceAll(' ', '-')}`"
        @click="turn(group.section)"
      >
        {{ isOpen(group) ? '▾' : '▸' }} {{ group.section }}
        <span v-if="!isOpen(group)" class="faint">{{ group.told }}</span>
      </ElButton>
      <template v-if="isOpen(group)">
        <ParameterRow
          v-for="parameter in group.parameters"
          :id="id"
          :key="parameter.name"
          :operator="declared"
          :parameter="parameter"
          :value="values[parameter.name]"
          :values="valuesNow"
          :error="errorOf(parameter.name)"
          :summary="summaries[parameter.of ?? 'geo'] ?? summaries[inputs[0]?.name ?? '']"
          :shapes="shapes"
          :controls="controls"
          @preview="preview(parameter.name, $event)"
          @commit="(typed, plain) => commit(parameter.name, typed, plain)"
        />
      </template>
    </template>
    <p v-if="words && !sections.length" class="faint none">No parameter fits.</p>
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
  justify-content: flex-start;
  width: 100%;
  margin-top: 3px;
  border-radius: 0;
  border-top: 1px solid var(--line);
  font-weight: 600;
}
.section :deep(> span) {
  display: block;
  line-height: 1.4;
  overflow: hidden;
  text-overflow: ellipsis;
}
.section .faint {
  font-weight: 400;
}
.none {
  margin: 2px 0;
  font-size: 13px;
}
</style>
