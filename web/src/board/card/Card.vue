<script setup lang="ts">
/** A node as it is drawn: what it does in one line, its counts, time and troubles; opened, its controls. */
import { Handle, Position, useVueFlow } from '@vue-flow/core'
import { inject, nextTick, provide, ref, watch } from 'vue'
import { publishKey, wayKey } from '../../stores/injectionKeys'
import { useCatalogue } from '../../stores/useCatalogue'
import { useSelectedCards } from '../../stores/useSelectedCards'
import { textPlaceKey } from '../../text/textPlace'
import WaveGlyph from '../../shared/WaveGlyph.vue'
import CardCounts from './CardCounts.vue'
import CardFields from './CardFields.vue'
import CardHeader from './CardHeader.vue'
import CardMessages from './CardMessages.vue'
import CardNested from './CardNested.vue'
import { useCard } from './useCard'

const props = defineProps<{ id: string; selected?: boolean }>()
const card = useCard(props.id)
const { node, declared, report, looking, title, inputs, outputs, visible, wired, writes, line, time } = card
const { timeHelp, isValue, runsGraph, isTimely } = card
const { newer } = useCatalogue()
const { traced } = useSelectedCards()
const way = inject(wayKey, ref('down'))
const openPublish = inject(publishKey, () => {})
provide(textPlaceKey, { node: props.id })

const { updateNodeInternals } = useVueFlow('board')
watch(
  () => inputs.value.map((input) => input.name).join(),
  () => void nextTick(() => updateNodeInternals([props.id])),
)
watch([() => props.selected, () => wired.value.join(), () => visible.value.length], () =>
  setTimeout(() => updateNodeInternals([props.id]), 60),
)
</script>

<template>
  <article
    v-if="node"
    class="card"
    :class="{
      open: selected,
      looking,
      skipped: node.skip,
      nests: runsGraph,
      traced: traced.has(id),
      failed: report?.state === 'failed',
      waiting: report?.state === 'waiting',
    }"
    :aria-label="title"
    :data-test="`card-${id}`"
    :data-help="`operator:${node.operator}`"
  >
    <Handle
      v-for="(input, n) in inputs"
      :id="input.name"
      :key="input.name"
      type="target"
      :position="way === 'down' ? Position.Top : Position.Left"
      :style="{ [way === 'down' ? 'left' : 'top']: `${((n + 1) * 100) / (inputs.length + 1)}%` }"
      :class="{ many: input.many, optional: input.optional }"
      :title="`${input.name}${input.optional ? ' (may stay empty)' : ''}: ${input.help}`"
    />
    <div class="from-afar" aria-hidden="true" :title="title">
      <span>{{ title }}</span>
    </div>
    <CardHeader :card="card" :open="selected" />
    <p v-if="writes && !selected" class="line mono">
      <span :title="writes">{{ writes }}</span>
    </p>
    <p v-else-if="!selected" class="line mono">
      <b v-if="newer(node)" class="new" :title="`Release ${newer(node)} is there; open the card to see what differs`"
        >↑ {{ newer(node) }}</b
      ><span :title="line">{{ line }}</span
      ><WaveGlyph v-if="isTimely" /><span v-if="time" class="time" :title="timeHelp">{{ time }}</span>
    </p>
    <p v-else class="about faint">
      <b v-if="node.title">{{ declared?.label }}: </b>{{ declared?.summary }}.
    </p>
    <CardNested v-if="selected && declared && runsGraph" :id="id" :operator="declared" @publish="openPublish(id)" />
    <CardFields v-if="selected" :card="card" />
    <template v-else>
      <Handle
        v-for="(name, n) in wired"
        :id="`=${name}`"
        :key="name"
        type="target"
        :position="Position.Top"
        class="value"
        :style="{ left: `calc(100% - ${16 + n * 14}px)` }"
        :title="name"
      />
    </template>
    <CardMessages :card="card" :open="selected" />
    <CardCounts :card="card" :open="selected" />
    <Handle
      v-for="(made, n) in outputs"
      :id="made.name"
      :key="made.name"
      type="source"
      :position="way === 'down' ? Position.Bottom : Position.Right"
      :class="{ value: isValue }"
      :style="{ [way === 'down' ? 'left' : 'top']: `${((n + 0.5) * 100) / outputs.length}%` }"
      :title="`${made.name}: ${made.help}`"
    />
  </article>
</template>

<style scoped>
.card {
  width: 224px;
  padding: 7px 10px 6px;
  border: 1px solid var(--line);
  border-radius: 7px;
  background: var(--sheet);
  box-shadow: var(--shade);
  font-size: 14px;
  cursor: grab;
}
.from-afar {
  display: none;
  position: absolute;
  inset: 0;
  align-items: center;
  padding: 0 6px;
  font-size: calc(11.5px / max(var(--zoom), 0.14));
  font-weight: 600;
  letter-spacing: -0.02em;
}
.from-afar span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
:global(.cards.far .card > :not(.from-afar, .vue-flow__handle)) {
  visibility: hidden;
}
:global(.cards.far:not(.dots) .card > .from-afar) {
  display: flex;
}
:global(.cards.far .card.failed) {
  background: color-mix(in srgb, var(--bad) 22%, var(--sheet));
}
:global(.cards.far .card.looking) {
  background: var(--accent-wash);
}
.card.open {
  width: 392px;
  border-color: var(--strong-line);
  background: var(--raised);
  cursor: default;
}
.card.looking {
  border-left: 4px solid var(--accent);
  padding-left: 7px;
}
.card.traced {
  outline: 3px solid color-mix(in srgb, var(--accent) 60%, transparent);
  outline-offset: 2px;
}
.card.failed {
  border-color: var(--bad);
  border-style: dashed;
}
.card.skipped {
  opacity: 0.66;
}
.nests {
  box-shadow:
    3px 3px 0 -1px var(--sheet),
    3px 3px 0 0 var(--line),
    var(--shade);
}
p {
  margin: 2px 0;
}
.line {
  display: flex;
  gap: 8px;
  color: var(--faint-ink);
  font-size: 12px;
}
.line span:first-child {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.about {
  font-size: 13px;
}
.new {
  flex: none;
  color: var(--accent);
}
.time {
  margin-left: auto;
  color: var(--faint-ink);
  white-space: nowrap;
}
</style>
