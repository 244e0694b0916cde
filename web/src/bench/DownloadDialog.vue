<script setup lang="ts">
/** What is looked at, as a file: its format, what that keeps, and how it is written. */
import { useLocalStorage } from '@vueuse/core'
import { ElButton, ElDialog, ElSegmented } from 'element-plus'
import { computed } from 'vue'
import Choice from '../shared/controls/Choice.vue'
import { useCatalogue, written } from '../stores/useCatalogue'
import { useGraph } from '../stores/useGraph'
import { useTime } from '../stores/useTime'
import { exportAddress, optionsOf } from './exports'

defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: [] }>()
const graph = useGraph()
const time = useTime()
const { catalogue, operatorOf } = useCatalogue()
/** Kept for each browser: the format, and the words of its options by format. */
const chosen = useLocalStorage('reticula download format', 'ply')
const words = useLocalStorage<Record<string, Record<string, string>>>('reticula download options', {})

const entries = computed(() =>
  written(catalogue.formats).map(([value, format]) => ({
    value,
    label: `${format.name} (.${value})`,
    help: `keeps ${format.keeps}`,
  })),
)
const ending = computed(() =>
  catalogue.formats[chosen.value]?.written ? chosen.value : (entries.value[0]?.value ?? ''),
)
const format = computed(() => catalogue.formats[ending.value])
const options = computed(() => optionsOf(format.value?.options ?? {}, words.value[ending.value] ?? {}))
const node = computed(() => graph.document.value.looking_at ?? '')
const title = computed(() => {
  const found = graph.document.value.nodes[node.value.split(':')[0] ?? '']
  return found?.title || operatorOf(found)?.label || node.value
})
const address = computed(() =>
  exportAddress(graph.state.value?.id ?? '', {
    node: node.value,
    format: ending.value,
    options: Object.fromEntries(options.value.map(({ name, value }) => [name, value])),
    level: graph.path.value.join('/'),
    frame: time.frame.value,
  }),
)

function set(name: string, word: string) {
  words.value = { ...words.value, [ending.value]: { ...words.value[ending.value], [name]: word } }
}
</script>

<template>
  <ElDialog :model-value="open" :title="`Download ‘${title}’`" width="min(520px, 92vw)" @close="emit('close')">
    <div class="rows" data-help="formats.html">
      <span class="faint">format</span>
      <Choice :value="ending" :entries="entries" label="Format" data-test="download-format" @choose="chosen = $event" />
      <span class="faint">keeps</span>
      <span data-test="download-keeps">{{ format?.keeps }}</span>
      <template v-for="option in options" :key="option.name">
        <span class="faint">{{ option.name }}</span>
        <div>
          <ElSegmented
            :model-value="option.value"
            :options="option.words"
            :aria-label="option.name"
            :data-test="`download-${option.name}`"
            @update:model-value="set(option.name, $event as string)"
          />
          <div class="faint small">{{ format?.about[option.name] }}</div>
        </div>
      </template>
    </div>
    <p v-if="format && !/everything|all the rest/.test(format.keeps)" class="faint small">
      What else the shape holds is left out; PLY keeps everything.
    </p>
    <template #footer>
      <ElButton @click="emit('close')">Cancel</ElButton>
      <ElButton type="primary" tag="a" :href="address" download data-test="download-file" @click="emit('close')"
        >Download .{{ ending }}</ElButton
      >
    </template>
  </ElDialog>
</template>

<style scoped>
.rows {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  align-items: center;
  gap: 10px 12px;
  font-size: 14px;
}
.small {
  margin: 2px 0 0;
  font-size: 13px;
}
p.small {
  margin-top: 14px;
}
</style>
