<script setup lang="ts">
/** A node of the graph that is worked on, as a row; opened, its controls in place. */
import { useKeys } from '../../stores/useKeys'
import LinkedMark from '../card/LinkedMark.vue'
import Lookers from '../card/Lookers.vue'
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { useLive } from '../../stores/insight/useLive'
import { useChecks } from '../../stores/useChecks'
import { useSelectedCards } from '../../stores/useSelectedCards'
import { useCard } from '../card/useCard'
import { useCardEdits } from '../card/useCardEdits'
import LaneControls from './LaneControls.vue'
import LaneHead from './LaneHead.vue'
import LaneStrip from './LaneStrip.vue'
import type { NodeEntry } from './useLaneEntries'

const { hint } = useKeys()

const props = defineProps<{
  entry: NodeEntry
  wide: number
  step: number
  tall: number
  open: boolean
  chosen: boolean
  unfolded: boolean
  /** Seconds of the slowest node. */
  slowest: number
  titleOf: (id: string) => string
}>()
const emit = defineEmits<{ turn: []; resize: [height: number] }>()
const card = useCard(props.entry.id)
const { id, node, report, looking, title, line, writes, time, timeHelp, isValue } = card
const { numbers, warnings, message, isTimely } = card
const { look } = useCardEdits(card)
const { traced } = useSelectedCards()
const checks = useChecks()
const { wires } = useLive()

/** The kind that says most comes first. */
const counted = computed(() =>
  [...numbers.value].sort((a, b) => Number(a.kind === 'point') - Number(b.kind === 'point')),
)
const trouble = computed(() =>
  report.value?.state === 'waiting'
    ? `waits for ‘${props.titleOf(report.value.error?.cause ?? '')}’`
    : (message.value ?? ''),
)
const said = computed(() => [
  ...warnings.value.map((note) => note.text),
  ...(isValue.value ? [] : checks.of(id, report.value?.key))
    .filter((one) => !one.expected)
    .map((one) => `${one.count} ${one.name}: ${one.help}`),
])
</script>

<template>
  <div
    v-if="node"
    class="lane card"
    :data-help="`operator:${node.operator}`"
    :class="{
      open,
      looking,
      chosen,
      skipped: node.skip,
      traced: traced.has(id),
      failed: report?.state === 'failed',
      framed: entry.frame,
    }"
    :data-test="`card-${id}`"
  >
    <div class="head">
      <LaneStrip
        v-if="wide"
        :row="entry.row"
        :first="entry.first"
        :beside="entry.beside"
        :wide="wide"
        :step="step"
        :tall="tall"
        :title-of="titleOf"
      />
      <LaneHead
        :title="title"
        :line="report?.state === 'idle' ? 'not chosen further on, so not evaluated' : writes || line"
        :trouble="trouble"
        :numbers="isValue ? [] : counted"
        :warnings="said"
        :time="time"
        :time-help="timeHelp"
        :share="report?.state === 'done' && slowest ? report.seconds / slowest : 0"
        :value="isValue ? (wires[id] ?? '') : ''"
        :nests="!!node.graph"
        :unfolded="unfolded"
        :timely="isTimely"
        @turn="emit('turn')"
      />
      <LinkedMark :linked="node.linked" />
      <Lookers :node="id" />
      <ElButton
        class="look"
        :class="{ none: isValue || open }"
        text
        tabindex="-1"
        :aria-pressed="looking"
        :title="looking ? 'The view shows this' : `Look at this${hint('Look at')}`"
        :data-test="`look-${id}`"
        @click.stop="look()"
        >look</ElButton
      >
    </div>
    <LaneControls
      v-if="open"
      :card="card"
      :entry="entry"
      :wide="wide"
      :step="step"
      :title-of="titleOf"
      @resize="emit('resize', $event)"
    />
  </div>
</template>

<style scoped>
.lane {
  border-left: 3px solid transparent;
  font-size: 13px;
  cursor: default;
}
.head {
  display: flex;
  align-items: center;
  gap: 6px;
  height: var(--tall);
  padding-right: 8px;
}
.lane:hover {
  background: color-mix(in srgb, var(--ink) 5%, transparent);
}
.lane.framed {
  background: color-mix(in srgb, var(--accent) 4%, transparent);
}
.lane.chosen > .head {
  background: var(--accent-wash);
}
.lane.looking {
  border-left-color: var(--accent);
}
.lane.traced > .head {
  outline: 2px solid color-mix(in srgb, var(--accent) 60%, transparent);
  outline-offset: -2px;
}
.lane.failed > .head {
  background: var(--bad-wash);
}
.lane.skipped > .head {
  opacity: 0.6;
}
.look {
  flex: 0 0 38px;
  height: 20px;
  padding: 0;
  font-size: 12px;
  color: var(--faint-ink);
  opacity: 0;
}
.lane:hover .look,
.lane.chosen .look,
.look[aria-pressed='true'] {
  opacity: 1;
}
.look[aria-pressed='true'] {
  color: var(--accent);
}
.lane .look.none {
  visibility: hidden;
}
</style>
