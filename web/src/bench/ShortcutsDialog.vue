<script setup lang="ts">
/** Every shortcut, from the same list that the finder shows. */
import { ElDialog } from 'element-plus'
import { computed } from 'vue'
import type { Action } from '../model/actions'

const props = defineProps<{ open: boolean; actions: Action[] }>()
const emit = defineEmits<{ close: [] }>()
const listed = computed(() => props.actions.filter((action) => action.shortcut))
</script>

<template>
  <ElDialog :model-value="open" title="Shortcuts" width="min(760px, 92vw)" @close="emit('close')">
    <dl data-test="shortcuts">
      <div v-for="action in listed" :key="action.name">
        <dt>
          <kbd>{{ action.shortcut }}</kbd>
        </dt>
        <dd>
          <b>{{ action.name }}</b> <span class="faint">{{ action.help }}</span>
        </dd>
      </div>
    </dl>
    <p class="faint">
      In the view: drag turns, the wheel zooms, the right button shifts; a click picks, Shift adds. On the board: drag
      moves, Ctrl-click selects more cards, Shift-drag draws a box around them.
    </p>
  </ElDialog>
</template>

<style scoped>
dl {
  columns: 2;
  margin: 0;
}
div {
  display: flex;
  gap: 9px;
  padding: 2px 0;
  break-inside: avoid;
}
dt {
  flex: 0 0 88px;
  text-align: right;
}
dd {
  margin: 0;
}
</style>
