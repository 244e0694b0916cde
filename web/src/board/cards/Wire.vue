<script setup lang="ts">
/** One wire, drawn clear of cards. */
import { BaseEdge, type EdgeProps } from '@vue-flow/core'
import { computed } from 'vue'
import { parameterOf, type Wire } from '../../model/document'
import type { Boxes } from '../../model/routing/boxes'
import { wirePath } from '../../model/routing/wires'
import { useLive } from '../../stores/insight/useLive'

const props = defineProps<EdgeProps<{ wire: Wire; gap: number }> & { cards: Boxes }>()
const { wires } = useLive()
/** What a value node gives for the picked element. */
const value = computed(() =>
  parameterOf(props.data.wire.input) === null ? '' : (wires.value[props.data.wire.from] ?? ''),
)
/** Edges are made anew with each change of the graph; a way is looked for only where an end, a card or the gap is another. */
const gap = computed(() => props.data.gap)
const path = computed(() =>
  wirePath(
    { x: props.sourceX, y: props.sourceY, side: props.sourcePosition },
    { x: props.targetX, y: props.targetY, side: props.targetPosition },
    props.cards,
    gap.value,
  ),
)
</script>

<template>
  <BaseEdge
    :id="id"
    :path="path"
    :interaction-width="22"
    :label="value"
    :label-x="(sourceX + targetX) / 2"
    :label-y="(sourceY + targetY) / 2"
    label-show-bg
    :label-bg-padding="[6, 2]"
    :label-bg-border-radius="4"
  />
</template>
