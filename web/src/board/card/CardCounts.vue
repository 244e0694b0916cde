<script setup lang="ts">
/** The foot of a card: how many elements there are, what checks found, how long it took, and its outputs. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import KindGlyph from '../../shared/KindGlyph.vue'
import { change, count, shortChange } from '../../shared/numbers'
import { useChecks } from '../../stores/useChecks'
import { useInspection } from '../../stores/useInspection'
import type { CardState } from './useCard'
import { useCardEdits } from './useCardEdits'

const props = defineProps<{ card: CardState; open?: boolean }>()
const { id, report, looking, numbers, time, timeHelp, isValue, outputs, shownOutput, outputCount } = props.card
const { look } = useCardEdits(props.card)
const checks = useChecks()
const inspect = useInspection()

/** What checks found at the result that nothing explains: neither what came in nor what the operator does. */
const wrong = computed(() => (isValue.value ? [] : checks.of(id, report.value?.key).filter((one) => !one.expected)))
const wrongHelp = computed(() => wrong.value.map((one) => `${count(one.count)} ${one.name}: ${one.help}`).join('; '))
function seeChecks() {
  if (!looking.value) look()
  inspect.panel.value = 'checks'
}
</script>

<template>
  <footer v-if="!isValue" class="mono">
    <span v-for="entry in numbers" :key="entry.kind" :title="`${entry.kind}s, and the change from the input`"
      ><KindGlyph :kind="entry.kind" />{{ count(entry.count)
      }}<small v-if="entry.change" :title="`${change(entry.change)} ${entry.kind}s`">{{
        shortChange(entry.change)
      }}</small></span
    >
    <ElButton
      v-if="wrong.length"
      class="small checks nodrag"
      text
      :title="`${wrongHelp}. Click to see where, and what mends it.`"
      :aria-label="`Checks: ${wrongHelp}`"
      :data-test="`checks-${id}`"
      @click.stop="seeChecks"
    >
      {{ count(wrong.reduce((sum, one) => sum + one.count, 0)) }}
      {{ wrong.length === 1 ? wrong[0]!.name : 'found by checks' }}
    </ElButton>
    <ElButton
      v-else-if="looking && checks.isLeftOut(id, report?.key)"
      class="small nodrag"
      text
      title="This is large: it is checked when you ask for it"
      :data-test="`checks-${id}`"
      @click.stop="seeChecks"
    >
      not checked
    </ElButton>
    <span v-if="open && time" class="time" :title="timeHelp">{{ time }}</span>
  </footer>
  <div v-if="outputs.length > 1" class="outputs nodrag">
    <ElButton
      v-for="made in outputs"
      :key="made.name"
      class="small"
      text
      :aria-pressed="shownOutput === made.name"
      :title="`Look at this output: ${made.help}`"
      :data-test="`look-${id}-${made.name}`"
      @click.stop="look(made.name)"
    >
      {{ made.name
      }}<small class="mono"
        ><KindGlyph :kind="outputCount(made.name).kind" />{{ count(outputCount(made.name).count) }}</small
      >
    </ElButton>
  </div>
</template>

<style scoped>
footer {
  display: flex;
  flex-wrap: wrap;
  gap: 0 7px;
  min-height: 18px;
  margin-top: 2px;
  font-size: 12px;
}
footer span {
  display: inline-flex;
  align-items: center;
  gap: 3px;
}
footer small {
  font-size: 12px;
  letter-spacing: -0.5px;
  color: var(--good);
}
.small {
  min-height: 22px;
  padding: 0 5px;
  font-size: 12px;
  color: var(--faint-ink);
}
.small[aria-pressed='true'] {
  color: var(--accent);
}
.outputs {
  display: flex;
  margin: 3px -10px -6px;
  border-top: 1px solid var(--line);
}
.outputs .el-button {
  flex: 1 1 0;
  min-width: 0;
  min-height: 24px;
  white-space: nowrap;
}
.outputs small {
  display: inline-flex;
  align-items: center;
  gap: 2px;
  margin-left: 5px;
  font-size: 12px;
  color: var(--faint-ink);
}
.checks {
  min-height: 18px;
  padding: 0 4px;
  border-bottom: 1px dotted var(--warn);
  border-radius: 0;
  color: var(--warn);
}
.time {
  margin-left: auto;
  color: var(--faint-ink);
  white-space: nowrap;
}
</style>
