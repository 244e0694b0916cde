<script setup lang="ts">
/** Says that something differs from frame to frame. */
</script>

<template>
  <svg class="wave" viewBox="0 0 14 8" width="14" height="8" role="img" aria-label="differs from frame to frame">
    <title>Differs from frame to frame</title>
    <path d="M1 5 C3 0.5 5 0.5 7 4 S11 7.5 13 3" />
  </svg>
</template>

<style scoped>
.wave {
  flex: none;
}
path {
  fill: none;
  stroke: var(--accent);
  stroke-width: 1.6;
  stroke-linecap: round;
}
</style>
