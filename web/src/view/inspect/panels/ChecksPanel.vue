<script setup lang="ts">
/** What is wrong with what is looked at: what nothing explains first; a click selects it. */
import { ElButton } from 'element-plus'
import { computed, inject, nextTick } from 'vue'
import type { Check } from '../../../api/results'
import { splitFeed } from '../../../model/document'
import { count } from '../../../shared/numbers'
import { addCardKey } from '../../../stores/injectionKeys'
import { useChecks } from '../../../stores/useChecks'
import { useEvaluation } from '../../../stores/useEvaluation'
import { useInspection } from '../../../stores/useInspection'
import { useSelection } from '../../../stores/useSelection'
import { useTitles } from '../useTitles'

const emit = defineEmits<{ frame: [] }>()
const { checks } = useInspection()
const selection = useSelection()
const { shownNode, reports } = useEvaluation()
const counts = useChecks()
const addCard = inject(addCardKey, () => {})
const titleOf = useTitles()

/** Whether a finding is explained by what came in or by what the operator does, or is no more than a remark. */
function isExpected(check: Check): boolean {
  const node = splitFeed(shownNode.value ?? '').from
  const known = counts.of(node, reports.value[node]?.key).find((one) => one.name === check.name)
  return checks.value?.remarks.includes(check) || (known?.expected ?? false)
}

/** What nothing explains first, then the rest. */
const listed = computed(() =>
  [...(checks.value?.checks ?? []), ...(checks.value?.remarks ?? [])].sort(
    (a, b) => Number(isExpected(a)) - Number(isExpected(b)),
  ),
)

async function show(check: Check) {
  selection.kind.value = check.kind
  await nextTick()
  selection.choose(check.elements, false)
  await nextTick()
  emit('frame')
}

function mend(check: Check) {
  if (check.repair) addCard(check.repair.operator, check.repair.parameters)
}
</script>

<template>
  <p v-if="!checks" class="faint" role="status">
    {{ shownNode ? `Looking for what is wrong with ‘${titleOf(shownNode)}’ …` : 'Waiting for a result …' }}
  </p>
  <p v-else-if="!checks.checks.length" class="good" data-test="all-well">
    Nothing is wrong with ‘{{ titleOf(shownNode ?? '') }}’.
  </p>
  <div
    v-for="check in listed"
    :key="check.name"
    class="entry"
    :class="{ fault: !isExpected(check) }"
    :data-test="`check-${check.name.replaceAll(' ', '-')}`"
  >
    <ElButton text :title="`Select them: ${check.help}`" @click="show(check)">
      <b>{{ count(check.count) }}</b> {{ check.name }}
    </ElButton>
    <span class="faint">{{ check.help }}{{ isExpected(check) ? '; to be expected here' : '' }}</span>
    <ElButton
      v-if="check.repair"
      :title="`Add the card ${check.repair.operator.replaceAll('_', ' ')}`"
      @click="mend(check)"
    >
      {{ check.repair.operator.replaceAll('_', ' ') }}
    </ElButton>
  </div>
</template>

<style scoped>
.entry {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 6px;
  padding: 3px 0;
  border-top: 1px solid var(--line);
}
.entry .el-button {
  min-height: 24px;
  padding: 0 5px;
}
.fault .el-button:first-child {
  color: var(--warn);
}
.entry .faint {
  flex: 1 1 100%;
  padding-left: 5px;
}
.good {
  color: var(--good);
}
</style>
