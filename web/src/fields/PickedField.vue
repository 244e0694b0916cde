<script setup lang="ts">
/** Elements picked by hand: takes over what is selected in the view or the ledger, by names that stay. */
import { ElButton } from 'element-plus'
import { computed, ref } from 'vue'
import { api } from '../api/client'
import { answerTo, troubleOf, type Kind, type LookQuery } from '../api/results'
import { useEvaluation } from '../stores/useEvaluation'
import { useSelection } from '../stores/useSelection'
import { useGraph } from '../stores/useGraph'

const props = defineProps<{ value: string[]; label: string; kind: Kind | null }>()
const emit = defineEmits<{ commit: [value: string[]] }>()

const graph = useGraph()
const selection = useSelection()
const { shownNode } = useEvaluation()
const trouble = ref('')
const fits = computed(() => selection.kind.value === props.kind && selection.chosen.value.size > 0)
const plural = computed(() => (selection.chosen.value.size === 1 ? props.kind : `${props.kind}s`))
const hint = computed(() =>
  selection.kind.value !== props.kind
    ? `choose ${props.kind}s under 'pick' above the view, then click some`
    : `click ${props.kind}s in the view; with Shift, several`,
)

async function take(how: 'replace' | 'add' | 'take away') {
  trouble.value = ''
  if (!graph.state.value || !shownNode.value) return
  if (!props.kind) return
  const query: LookQuery = { what: 'names', kind: props.kind, elements: [...selection.chosen.value] }
  const answer = await api
    .looks(graph.state.value.id, shownNode.value, [query], graph.basis())
    .catch((error: Error) => error)
  const look = answer instanceof Error ? null : answer.looks[0]
  const names = answerTo('names', look)?.names
  if (!names) {
    trouble.value = answer instanceof Error ? answer.message : troubleOf(look) || 'nothing is shown'
    return
  }
  const bare = (name: string) => name.replace('+', '')
  const taken = new Set(names.map(bare))
  const kept = how === 'replace' ? [] : props.value.filter((name) => !taken.has(bare(name)))
  emit('commit', how === 'take away' ? kept : [...kept, ...names])
}
</script>

<template>
  <div class="picked" data-test="picked">
    <p class="count">
      <b>{{ value.length }}</b> kept<ElButton v-if="value.length" class="small" text @click="emit('commit', [])">
        clear
      </ElButton>
    </p>
    <p v-if="fits">{{ selection.chosen.value.size }} {{ plural }} selected:</p>
    <p v-if="fits" class="take">
      <ElButton class="small" text data-test="picked-replace" @click="take('replace')">take these</ElButton>
      <ElButton class="small" text :disabled="!value.length" @click="take('add')">add</ElButton>
      <ElButton class="small" text :disabled="!value.length" @click="take('take away')">take away</ElButton>
    </p>
    <p v-else class="faint">{{ hint }}</p>
    <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
  </div>
</template>

<style scoped>
.picked {
  flex: 1;
  min-width: 0;
  font-size: 13px;
}
p {
  margin: 4px 0;
}
.count {
  display: flex;
  gap: 6px;
  align-items: baseline;
}
.take {
  display: flex;
  gap: 6px;
}
.take .el-button {
  border: 1px solid var(--line);
}
.bad {
  color: var(--bad);
}
</style>
