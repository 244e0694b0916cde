<script setup lang="ts">
/** Search and do: every operator to add and every action, by any part of any word. */
import { ElInput } from 'element-plus'
import { computed, nextTick, ref, watch } from 'vue'
import { useCatalogue } from '../stores/useCatalogue'
import { fit, type Action } from '../model/actions'

const props = defineProps<{ actions: Action[]; open: boolean; after: string }>()
const emit = defineEmits<{ close: []; add: [operator: string] }>()
const { catalogue } = useCatalogue()
const words = ref('')
const at = ref(0)
const input = ref<InstanceType<typeof ElInput>>()

const found = computed(() => {
  const operators = catalogue.operators
    .filter((entry) => !entry.published || entry.published.release === entry.published.releases.at(-1))
    .map((entry) => ({
      key: `add ${entry.name}`,
      name: entry.label,
      help: entry.summary,
      side: entry.family,
      more: `${entry.summary} ${entry.keywords.join(' ')} ${entry.family}`,
      run: () => emit('add', entry.name),
      enabled: true,
    }))
  const actions = props.actions.map((action) => ({
    key: action.name,
    name: action.name,
    help: action.help,
    side: action.shortcut ?? '',
    more: action.help,
    run: action.run,
    enabled: action.enabled?.() ?? true,
  }))
  return [...operators, ...actions]
    .map((entry) => ({ ...entry, score: fit(words.value, entry.name, entry.more) }))
    .filter((entry) => entry.score > 0)
    .sort((a, b) => b.score - a.score)
})

watch(
  () => props.open,
  (now) => {
    if (!now) return
    words.value = ''
    at.value = 0
    void nextTick(() => input.value?.focus())
  },
)
watch(words, () => (at.value = 0))

function key(event: KeyboardEvent) {
  const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
  if (step) {
    event.preventDefault()
    at.value = (at.value + step + found.value.length) % Math.max(found.value.length, 1)
    void nextTick(() => document.querySelector('.finder .at')?.scrollIntoView({ block: 'nearest' }))
  } else if (event.key === 'Enter') {
    event.preventDefault()
    choose(found.value[at.value])
  } else if (event.key === 'Escape') {
    event.preventDefault()
    emit('close')
  }
}

function choose(entry: { run: () => void; enabled: boolean } | undefined) {
  if (!entry?.enabled) return
  emit('close')
  entry.run()
}
</script>

<template>
  <div v-if="open" class="veil" @pointerdown.self="emit('close')">
    <div class="finder" role="dialog" data-help="looking.html#on-the-board" aria-modal="true" aria-label="Finder">
      <ElInput
        ref="input"
        v-model="words"
        size="large"
        placeholder="Find an operator or an action"
        aria-label="Find"
        data-test="finder"
        spellcheck="false"
        @keydown="key($event as KeyboardEvent)"
      />
      <p class="faint hint">
        {{ after ? `An operator is added after ‘${after}’.` : 'An operator is added on its own.' }} <kbd>↑</kbd>
        <kbd>↓</kbd> <kbd>Enter</kbd> <kbd>Esc</kbd>
      </p>
      <ul role="listbox" aria-label="What fits" tabindex="0">
        <li
          v-for="(entry, number) in found"
          :key="entry.key"
          role="option"
          :aria-selected="number === at"
          :aria-disabled="!entry.enabled"
          :class="{ at: number === at, off: !entry.enabled }"
          @pointermove="at = number"
          @click="choose(entry)"
        >
          <b>{{ entry.name }}</b><span class="faint help">{{ entry.help }}</span
          ><span class="side faint">{{ entry.side }}</span>
        </li>
        <li v-if="!found.length" class="faint">Nothing fits. Try another word for it.</li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.veil {
  position: fixed;
  inset: 0;
  z-index: 50;
  background: rgb(10 20 25 / 35%);
}
.finder {
  display: flex;
  flex-direction: column;
  width: min(620px, 92vw);
  max-height: 70vh;
  margin: 9vh auto 0;
  padding: 12px;
  border: 1px solid var(--strong-line);
  border-radius: 9px;
  background: var(--sheet);
  box-shadow: var(--shade);
}
.hint {
  margin: 6px 2px;
  font-size: 13px;
}
ul {
  margin: 0;
  padding: 0;
  overflow: auto;
  list-style: none;
}
li {
  display: flex;
  align-items: baseline;
  gap: 10px;
  padding: 5px 9px;
  border-radius: 5px;
  cursor: pointer;
}
.at {
  background: var(--accent-wash);
}
.off {
  opacity: 0.5;
}
li b {
  white-space: nowrap;
}
.help {
  flex: 1;
  overflow: hidden;
  font-size: 13px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.side {
  font-size: 12px;
  white-space: nowrap;
}
</style>
