<script setup lang="ts">
/** On a card that runs a linked graph: with how many others it shares it. */
import { computed } from 'vue'
import { copiesOf } from '../../model/linked'
import { useGraph } from '../../stores/useGraph'

const props = defineProps<{ linked?: string }>()
const graph = useGraph()
const copies = computed(() => (props.linked ? copiesOf(graph.root.value, props.linked) : 0))
</script>

<template>
  <span
    v-if="copies > 1"
    class="linked"
    :title="`One of ${copies} linked cards: an edit inside is made in all of them`"
    data-test="linked-mark"
    >linked ×{{ copies }}</span
  >
</template>

<style scoped>
.linked {
  flex: none;
  padding: 0 5px;
  border: 1px solid var(--line);
  border-radius: 8px;
  color: var(--faint-ink);
  font-size: 12px;
}
</style>
