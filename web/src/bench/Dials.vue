<script setup lang="ts">
/** The graph's own dials: values that formulas of any node read by name. */
import { ElMessageBox } from 'element-plus'
import { computed, ref } from 'vue'
import type { Dial } from '../board/document'
import NumberField from '../board/fields/NumberField.vue'
import { useGraph } from '../board/useGraph'

const graph = useGraph()
const open = ref(true)
const dials = computed(() => Object.entries(graph.document.value.dials ?? {}))
const label = (name: string) => name.replaceAll('_', ' ')

function preview(name: string, value: unknown) {
  if (typeof value === 'number') graph.preview((next) => (next.dials![name]!.value = value))
}

function commit(name: string, value: unknown) {
  graph.dropPreview()
  if (typeof value !== 'number' && typeof value !== 'boolean') return
  const { low, high, type } = graph.document.value.dials![name]!
  let kept = value
  if (typeof kept === 'number') kept = Math.min(Math.max(type === 'integer' ? Math.round(kept) : kept, low ?? -Infinity), high ?? Infinity)
  graph.edit(`turn ${label(name)}`, (next) => (next.dials![name]!.value = kept))
}

async function add() {
  const answer = await ElMessageBox.prompt('Formulas read the dial by this name: letters, digits and _.', 'New dial', {
    inputPattern: /^[A-Za-z_]\w{0,63}$/, inputErrorMessage: 'Use letters, digits and _, not starting with a digit.', confirmButtonText: 'Add', cancelButtonText: 'Cancel',
  }).catch(() => null) // prettier-ignore
  const name = answer && (answer as { value: string }).value
  if (!name || name in (graph.document.value.dials ?? {})) return
  const made: Dial = { type: 'number', value: 0.5, soft: [0, 1], step: 0.01, unit: '', help: '' }
  graph.edit(`add the dial ${label(name)}`, (next) => (next.dials = { ...next.dials, [name]: made }))
}

function drop(name: string) {
  graph.edit(`remove the dial ${label(name)}`, (next) => delete next.dials![name])
}
defineExpose({ add })
</script>

<template>
  <section class="dials" aria-label="Dials">
    <header>
      <button class="plain" :aria-expanded="open" @click="open = !open">{{ open ? '▾' : '▸' }} Dials <span class="faint">{{ dials.length || 'none yet' }}</span></button>
      <button class="plain" title="Add a dial that formulas can read by name" data-test="add-dial" @click="add">+ dial</button>
    </header>
    <div v-if="open && dials.length" class="list">
      <div v-for="[name, dial] in dials" :key="name" class="dial" :data-test="`dial-${name}`">
        <span class="name" :title="dial.help || name">{{ label(name) }}</span>
        <input v-if="dial.type === 'toggle'" type="checkbox" :checked="dial.value as boolean" :aria-label="label(name)" @change="commit(name, ($event.target as HTMLInputElement).checked)" />
        <NumberField v-else :value="dial.value" :label="label(name)" :soft="dial.soft" :low="dial.low" :high="dial.high" :step="dial.step" :unit="dial.unit" :whole="dial.type === 'integer'" @preview="preview(name, $event)" @commit="commit(name, $event)" />
        <button class="plain drop" :title="`Remove the dial ${label(name)}`" :aria-label="`Remove the dial ${label(name)}`" @click="drop(name)">×</button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.dials {
  padding: 3px 10px 4px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
  font-size: 13px;
}
header {
  display: flex;
  justify-content: space-between;
}
header .plain {
  padding: 0 4px;
  font-weight: 600;
}
.list {
  max-height: 190px;
  overflow: auto;
}
.dial {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 31px;
}
.name {
  flex: 0 0 104px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.dial :deep(.unit) {
  width: 26px;
}
.drop {
  padding: 0 5px;
  min-height: 22px;
  color: var(--faint-ink);
}
</style>
