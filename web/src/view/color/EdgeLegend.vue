<script setup lang="ts">
/** What the edges' colours and widths mean, and how many there are of each kind. */
import { count } from '../../shared/numbers'
import type { EdgeKinds } from '../rendering/edgeLines'

defineProps<{ edges: EdgeKinds }>()
</script>

<template>
  <div class="edges floating" data-test="edge-legend">
    <div class="row">
      <i class="border" /><b>{{ count(edges.counts[0]) }}</b> open borders
    </div>
    <div class="row">
      <i class="crease" /><b>{{ count(edges.counts[1]) }}</b> <span :title="edges.creasesAre">creases</span>
    </div>
    <div class="row">
      <i class="crowded" /><b>{{ count(edges.counts[2]) }}</b> <span title="more than two faces">crowded</span>
    </div>
  </div>
</template>

<style scoped>
.edges {
  width: fit-content;
  padding: 5px 10px;
}
.row {
  display: flex;
  align-items: center;
  gap: 6px;
}
i {
  width: 16px;
  border-top: 3px solid var(--edge-border);
}
.crease {
  border-top: 2px solid var(--edge-crease);
}
.crowded {
  border-top: 4.5px solid var(--edge-crowded);
}
</style>
