<script setup lang="ts">
/** The lanes beside a row: what runs past, what comes in, and what the node sends on. */
import { computed } from 'vue'
import type { LaneRow, Running } from '../../model/lanes'

const props = defineProps<{
  row?: LaneRow
  first?: number
  beside: Running[]
  wide: number
  step: number
  tall: number
  /** Nothing but lines that run on. */
  bare?: boolean
  titleOf: (id: string) => string
}>()
const x = (lane: number) => lane * props.step + 8
const own = (lane: number) => x(lane + (props.first ?? 0))
const middle = computed(() => props.tall / 2)
/** Lines that run past on the whole height. */
const past = computed(() => [
  ...props.beside.map((one) => ({ ...one, x: x(one.lane) })),
  ...(props.row && !props.bare ? props.row.past.map((one) => ({ ...one, x: own(one.lane) })) : []),
  ...(props.row && props.bare ? props.row.after.map((one) => ({ ...one, x: own(one.lane) })) : []),
])
const arrivals = computed(() =>
  (props.row?.arrivals ?? []).map((one) => {
    const [from, to] = [own(one.lane), own(props.row!.lane)]
    const way =
      from === to
        ? `M${to} 0V${middle.value}`
        : `M${from} 0C${from} ${middle.value} ${from} ${middle.value} ${to} ${middle.value}`
    return { ...one, way, title: `${props.titleOf(one.from)} → ${one.input.replace('=', '')}` }
  }),
)
const sends = computed(() => props.row?.after.some((one) => one.from === props.row!.id) ?? false)
const isValue = computed(() => props.row?.after.find((one) => one.from === props.row!.id)?.value ?? false)
</script>

<template>
  <svg class="strip" :width="wide * step + 10" :height="tall" aria-hidden="true">
    <line
      v-for="one in past"
      :key="`${one.lane} ${one.from}`"
      :x1="one.x"
      :x2="one.x"
      y1="0"
      :y2="tall"
      :class="{ value: one.value }"
    >
      <title>{{ titleOf(one.from) }}</title>
    </line>
    <template v-if="row && !bare">
      <path v-for="one in arrivals" :key="one.input + one.from" :d="one.way" :class="{ value: one.value }">
        <title>{{ one.title }}</title>
      </path>
      <line v-if="sends" :x1="own(row.lane)" :x2="own(row.lane)" :y1="middle" :y2="tall" :class="{ value: isValue }" />
      <rect :x="own(row.lane) - 4" :y="middle - 4" width="8" height="8" rx="2" :class="{ value: isValue }" />
    </template>
  </svg>
</template>

<style scoped>
.strip {
  flex: none;
  align-self: flex-start;
  fill: none;
  stroke: var(--wire);
  stroke-width: 2.2;
}
.value {
  stroke-width: 1.2;
  stroke-dasharray: 2.5 2;
}
rect {
  fill: var(--sheet);
}
rect.value {
  rx: 4;
  stroke-dasharray: none;
}
</style>
