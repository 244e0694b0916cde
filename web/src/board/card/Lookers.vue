<script setup lang="ts">
/** Who else looks at a card. */
import { computed } from 'vue'
import { useCompany } from '../../stores/insight/useCompany'

const props = defineProps<{ node: string }>()
const company = useCompany()
const names = computed(() => company.lookers(props.node).map((one) => one.called))
</script>

<template>
  <span
    v-if="names.length"
    class="lookers"
    :title="`${names.join(', ')} ${names.length > 1 ? 'look' : 'looks'} at this`"
    >{{ names.length > 1 ? `${names[0]} +${names.length - 1}` : names[0] }}</span
  >
</template>

<style scoped>
.lookers {
  flex: none;
  padding: 0 6px;
  border-radius: 9px;
  background: var(--live-wash);
  color: var(--live-ink);
  font-size: 12px;
}
</style>
