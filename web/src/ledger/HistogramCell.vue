<script setup lang="ts">
/** How one column's values are spread: a small histogram with mean and deviation, members of a group, or the commonest words. */
import { computed } from 'vue'
import type { Spread } from '../api/results'
import { count, short } from '../shared/numbers'
import Spark from '../shared/Spark.vue'

const props = defineProps<{ spread: Spread | null }>()
const help = computed(() => {
  const { low, high, mean, deviation, bad, count: all } = props.spread ?? {}
  if (low === undefined) return ''
  return `${count(all ?? 0)} values from ${short(low)} to ${short(high!)}; mean ${short(mean!)}, standard deviation ${short(deviation!)}${bad ? `; ${count(bad)} are no numbers` : ''}`
})
const share = computed(() =>
  props.spread?.count ? ((100 * (props.spread.members ?? 0)) / props.spread.count).toFixed(1) : '0',
)
</script>

<template>
  <span class="cell spread" role="cell" :title="help">
    <template v-if="spread?.low !== undefined">
      <Spark v-if="spread.bins?.length" :bins="spread.bins" />
      <span
        >{{ short(spread.mean!) }} <span class="faint">± {{ short(spread.deviation!) }}</span></span
      >
    </template>
    <template v-else-if="spread?.members !== undefined"
      >{{ count(spread.members) }}<br /><span class="faint">{{ share }} %</span></template
    >
    <template v-else-if="spread?.words !== undefined"
      >{{ count(spread.words) }} words<br /><span class="faint">{{
        spread.most?.[0]?.word || '(empty)'
      }}</span></template
    >
  </span>
</template>

<style scoped>
.spread {
  display: flex;
  flex-direction: column;
  justify-content: center;
  padding: 2px 8px;
  font-size: 12px;
  line-height: 1.25;
  text-align: right;
}
.spread :deep(.spark) {
  align-self: flex-end;
  width: 88px;
}
</style>
