<script setup lang="ts">
/** A formula, a group or a name, with what exists on the input to choose from. */
import { ref } from 'vue'
import FormulaHelp from '../text/FormulaHelp.vue'
import { useCaret } from '../text/useCaret'
import { useTypedText } from './useTypedText'

const props = defineProps<{
  value: string
  label: string
  placeholder?: string
  options?: string[]
  invalid?: boolean
  single?: boolean
  parameter?: string
}>()
const emit = defineEmits<{ preview: [value: string]; commit: [value: string] }>()

const { text, begin, end, back } = useTypedText(() => props.value, String)
const caret = useCaret()
const help = ref<{ key: (event: KeyboardEvent) => boolean }>()

function complete(next: string, cursor: number) {
  text.value = next
  typed()
  caret.move(cursor)
}

function typed() {
  begin()
  emit('preview', text.value)
}

function settle() {
  if (end()) emit('commit', text.value)
}

function key(event: KeyboardEvent) {
  if (help.value?.key(event)) return
  if (event.key === 'Enter' && !event.shiftKey) {
    event.preventDefault()
    settle()
    ;(event.target as HTMLElement).blur()
  } else if (event.key === 'Escape') {
    emit('commit', back())
  }
}

function choose(event: Event) {
  const chosen = (event.target as HTMLSelectElement).value
  ;(event.target as HTMLSelectElement).value = ''
  if (!chosen) return
  text.value = props.single || !text.value.trim() ? chosen : `${text.value.trim()} ${chosen}`
  end()
  emit('commit', text.value)
}
</script>

<template>
  <div class="formula">
    <textarea
      ref="area"
      v-model="text"
      class="text mono"
      rows="1"
      :aria-label="label"
      :aria-invalid="invalid"
      :placeholder="placeholder"
      spellcheck="false"
      @input="typed"
      @blur="((caret.focused.value = false), settle())"
      @keydown="key"
      v-on="caret.listeners"
    />
    <select
      v-if="options?.length"
      class="text pick"
      :aria-label="`${label}: what exists`"
      title="What exists on the input"
      @change="choose"
    >
      <option value="" />
      <option v-for="option in options" :key="option" :value="option">{{ option }}</option>
    </select>
    <FormulaHelp
      v-if="parameter && caret.focused.value"
      ref="help"
      :text="text"
      :cursor="caret.at.value"
      :parameter="parameter"
      @choose="complete"
    />
  </div>
</template>

<style scoped>
.formula {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
  gap: 4px;
  flex: 1;
  min-width: 0;
}
textarea {
  flex: 1 1 60px;
  min-width: 0;
  resize: none;
  overflow: auto;
  line-height: 1.35;
}
.pick {
  width: 24px;
  padding: 0;
  flex: none;
}
[aria-invalid='true'] {
  border-color: var(--bad);
}
</style>
