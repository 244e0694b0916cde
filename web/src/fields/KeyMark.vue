<script setup lang="ts">
/** Whether a value has keys, and one at this frame: a click sets it, or takes it away. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { isKeyed, keyAt, keysInWords, withKey, withoutKeys } from '../model/time/keyedValues'
import { useTime } from '../stores/useTime'

const props = defineProps<{ stored: unknown; now: unknown; label: string; name: string }>()
const emit = defineEmits<{ change: [value: unknown] }>()
const time = useTime()
const here = computed(() => isKeyed(props.stored) && !!keyAt(props.stored, time.frame.value))
const said = computed(() => {
  const what = here.value ? 'Take the key at this frame away' : 'Set a key at this frame'
  return isKeyed(props.stored) ? `${keysInWords(props.stored)}. ${what}` : what
})

function turn() {
  const frame = time.frame.value
  if (!isKeyed(props.stored)) return emit('change', { keys: [{ frame, value: props.now }] })
  emit('change', here.value ? withoutKeys(props.stored, [frame]) : withKey(props.stored, frame, props.now))
}
</script>

<template>
  <ElButton
    class="mark"
    text
    :class="{ here, keyed: isKeyed(stored), armed: time.armed.value }"
    :title="said"
    :aria-label="`Key of ${label} at this frame`"
    :aria-pressed="here"
    :data-test="`key-${name}`"
    @click="turn"
  >
    <svg viewBox="0 0 14 8" width="14" height="8"><path d="M1 7.5 A6 6 0 0 1 13 7.5 Z" /></svg>
  </ElButton>
</template>

<style scoped>
.mark {
  flex: none;
  min-height: 22px;
  padding: 0 2px;
}
.mark:not(.keyed, .armed) {
  opacity: 0;
}
:global(.field:hover .mark),
.mark.mark:focus-visible {
  opacity: 1;
}
path {
  fill: none;
  stroke: var(--faint-ink);
  stroke-width: 1.3;
}
.keyed path {
  stroke: var(--accent);
}
.here path {
  fill: var(--accent);
}
</style>
