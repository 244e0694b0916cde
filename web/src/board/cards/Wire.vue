<script setup lang="ts">
/** One wire, drawn clear of cards. */
import { BaseEdge, type EdgeProps } from '@vue-flow/core'
import { computed } from 'vue'
import type { Wire } from '../../model/document'
import type { Boxes } from '../../model/routing/boxes'
import { wirePath } from '../../model/routing/wires'

const props = defineProps<EdgeProps<{ wire: Wire; gap: number }> & { cards: Boxes }>()
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
  <BaseEdge :id="id" :path="path" :interaction-width="22" />
</template>
