<script setup lang="ts">
/** The line of a row: lanes, title, what differs from the defaults, counts with change, warnings, and time. */
import { ElButton } from 'element-plus'
import KindGlyph from '../../shared/KindGlyph.vue'
import WaveGlyph from '../../shared/WaveGlyph.vue'
import { change, count, shortChange } from '../../shared/numbers'

defineProps<{
  title: string
  line: string
  /** What went wrong, in place of the line. */
  trouble?: string
  /** How many elements there are of the kind that matters, and the change from the input. */
  numbers?: { kind: string; count: number; change: number }[]
  warnings?: string[]
  time?: string
  timeHelp?: string
  /** Time as a share of the slowest. */
  share?: number
  /** Whether a graph inside can be folded out, and whether it is. */
  nests: boolean
  unfolded: boolean
  /** Whether it differs from frame to frame. */
  timely?: boolean
  /** What it gives for the picked element, if it is a value. */
  value?: string
}>()
defineEmits<{ turn: [] }>()
</script>

<template>
  <ElButton
    v-if="nests"
    class="fold"
    text
    tabindex="-1"
    :aria-label="unfolded ? 'Hide what is inside' : 'Show what is inside'"
    :title="unfolded ? 'Hide what is inside (←)' : 'Show what is inside (→)'"
    @click.stop="$emit('turn')"
  >
    {{ unfolded ? '▾' : '▸' }}
  </ElButton>
  <span class="title" :title="title">{{ title }}</span>
  <WaveGlyph v-if="timely" />
  <span v-if="trouble" class="line bad" :title="trouble">{{ trouble }}</span>
  <span v-else class="line mono" :title="line">{{ line }}</span>
  <span v-if="warnings?.length" class="warn" :title="warnings.join('\n')">! {{ warnings.length }}</span>
  <span v-if="value" class="given mono" :title="`${value} for the picked element`">{{ value }}</span>
  <span class="counts mono">
    <span
      v-for="entry in numbers?.slice(0, 1)"
      :key="entry.kind"
      :title="`${entry.kind}s, and the change from the input`"
      ><small v-if="entry.change" :title="`${change(entry.change)} ${entry.kind}s`">{{
        shortChange(entry.change)
      }}</small
      ><KindGlyph :kind="entry.kind" />{{ count(entry.count) }}</span
    >
  </span>
  <span class="time mono" :title="timeHelp"><i :style="{ width: `${(share ?? 0) * 100}%` }" />{{ time }}</span>
</template>

<style scoped>
.fold {
  width: 16px;
  height: 18px;
  padding: 0;
}
.title {
  flex: 0 1 clamp(96px, 28%, 240px);
  min-width: 72px;
  overflow: hidden;
  font-weight: 600;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.line {
  flex: 1 1 30px;
  min-width: 0;
  overflow: hidden;
  color: var(--faint-ink);
  font-size: 12px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.bad {
  color: var(--bad);
}
.warn {
  flex: none;
  padding: 0 5px;
  border-radius: 8px;
  background: var(--warn-wash);
  color: var(--warn);
  font-size: 12px;
  font-weight: 700;
}
.given {
  flex: 0 1 auto;
  max-width: 40%;
  overflow: hidden;
  padding: 0 5px;
  border-radius: 4px;
  background: var(--live-wash);
  color: var(--live-ink);
  font-size: 12px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.counts {
  flex: none;
  font-size: 12px;
}
.counts span {
  display: inline-flex;
  align-items: center;
  gap: 3px;
}
.counts small {
  font-size: 12px;
  color: var(--good);
}
.time {
  position: relative;
  flex: 0 0 54px;
  padding-right: 3px;
  font-size: 12px;
  text-align: right;
  color: var(--faint-ink);
}
.time i {
  position: absolute;
  inset: 2px 0 2px auto;
  border-radius: 2px;
  background: color-mix(in srgb, var(--accent) 24%, transparent);
}
</style>
