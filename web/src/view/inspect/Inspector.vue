<script setup lang="ts">
/** The panel that is open beside the picture. */
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { useInspection } from '../../stores/useInspection'
import { PANELS } from './panels'

const emit = defineEmits<{ frame: [] }>()
const { panel, trouble } = useInspection()
const open = computed(() => PANELS.find((entry) => entry.name === panel.value))
</script>

<template>
  <aside
    v-if="open"
    class="panel"
    :aria-label="open.name"
    :data-help="open.page ?? 'looking.html'"
    data-test="inspector"
  >
    <header>
      <b>{{ open.title }}</b><ElButton text aria-label="Close" @click="panel = ''">×</ElButton>
    </header>
    <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
    <component :is="open.component" @frame="emit('frame')" />
  </aside>
</template>

<style scoped>
.panel {
  flex: 0 0 268px;
  padding: 6px 10px 9px;
  overflow: auto;
  border-left: 1px solid var(--line);
  background: var(--sheet);
  font-size: 13px;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.panel :deep(p) {
  margin: 3px 0;
}
.bad {
  color: var(--bad);
}
</style>
