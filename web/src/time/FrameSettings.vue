<script setup lang="ts">
/** First and last frame, frames per second, and what of them is played. */
import { ElButton, ElInputNumber, ElPopover, ElSwitch } from 'element-plus'
import { computed } from 'vue'
import { useTime } from '../stores/useTime'

const time = useTime()
const count = computed(() => time.timeline.value.last - time.timeline.value.first + 1)

function play(end: 0 | 1, value: number | undefined) {
  const made: [number, number] = [...time.range.value]
  if (value === undefined) return
  made[end] = Math.min(Math.max(Math.round(value), time.timeline.value.first), time.timeline.value.last)
  if (made[1] < made[0]) made[1 - end] = made[end]
  const all = made[0] === time.timeline.value.first && made[1] === time.timeline.value.last
  time.part.value = all ? null : made
}
</script>

<template>
  <ElPopover trigger="click" placement="top-end" :width="290">
    <template #reference>
      <ElButton text title="First and last frame, frames per second, what is played" data-test="frame-settings"
        >{{ time.timeline.value.first }}–{{ time.timeline.value.last }} ⋮</ElButton
      >
    </template>
    <div class="settings" data-help="time.html#the-time-strip">
      <span>First frame</span>
      <ElInputNumber
        :model-value="time.timeline.value.first"
        :precision="0"
        size="small"
        aria-label="First frame"
        @change="time.set({ first: $event ?? 0 })"
      />
      <span>Last frame</span>
      <ElInputNumber
        :model-value="time.timeline.value.last"
        :precision="0"
        size="small"
        aria-label="Last frame"
        data-test="last-frame"
        @change="time.set({ last: $event ?? 0 })"
      />
      <span>Frames per second</span>
      <ElInputNumber
        :model-value="time.timeline.value.rate"
        :min="0.01"
        :max="1000"
        size="small"
        aria-label="Frames per second"
        @change="time.set({ rate: $event || 24 })"
      />
      <span class="faint wide"
        >{{ count }} frames, {{ (count / time.timeline.value.rate).toFixed(2) }} s. Kept with the graph.</span
      >
      <span>Play from</span>
      <ElInputNumber
        :model-value="time.range.value[0]"
        :precision="0"
        size="small"
        aria-label="Play from"
        @change="play(0, $event)"
      />
      <span>to</span>
      <ElInputNumber
        :model-value="time.range.value[1]"
        :precision="0"
        size="small"
        aria-label="Play to"
        @change="play(1, $event)"
      />
      <span>Every … frames</span>
      <ElInputNumber
        v-model="time.step.value"
        :min="1"
        :max="1000"
        :precision="0"
        size="small"
        aria-label="Every how many frames"
      />
      <span>Again from the start</span>
      <ElSwitch v-model="time.loop.value" size="small" aria-label="Again from the start" />
    </div>
  </ElPopover>
</template>

<style scoped>
.settings {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
  gap: 6px 10px;
  font-size: 13px;
}
.wide {
  grid-column: 1 / -1;
}
</style>
