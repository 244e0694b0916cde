<script setup lang="ts">
/** The bench in one minute, on whatever is open. */
import { ElTour, ElTourStep } from 'element-plus'
import { computed } from 'vue'
import { useKeys } from '../stores/useKeys'

const open = defineModel<boolean>({ required: true })
const { keyOf } = useKeys()
/** Told with the keys that work in this browser. */
const steps = computed(() => [
  {
    target: '.board',
    title: 'The board',
    text: 'Each card changes the shape that comes in; large graphs are drawn as rows. Click one to open it in place and set its values.',
  },
  {
    target: '.dials',
    title: 'Dials',
    text: 'Values that drive the whole graph. Drag one: the shape follows. Drag the ⋮ of any parameter here to make it a dial.',
  },
  {
    target: '.view .stage',
    title: 'The view',
    text: 'The result of the card that is looked at. Drag to turn, click to pick; checks, trace and compare stand at its left edge.',
  },
  {
    target: '.ledger',
    title: 'The ledger',
    text: 'A row for each element, with all its values. What is picked here is picked in the view.',
  },
  {
    target: '[data-test=open-finder]',
    title: 'The finder',
    text: `Press ${keyOf('Find') || 'Find'} and type any word to add a card or do something. ${keyOf('Shortcuts') || 'Shortcuts'} lists all shortcuts.`,
  },
  {
    target: '[data-test=open-catalogue]',
    title: 'The catalogue',
    text: `All operators, and those you publish: select cards, press ${keyOf('Fold') || 'Fold'} to fold them into one, and publish it.`,
  },
])
</script>

<template>
  <ElTour v-model="open">
    <ElTourStep v-for="step in steps" :key="step.title" :target="step.target" :title="step.title">{{
      step.text
    }}</ElTourStep>
  </ElTour>
</template>
