<script setup lang="ts">
/** A formula, a group or a name, with what exists on the input to choose from. */
import { entriesOf } from '../shared/controls/choices'
import Choice from '../shared/controls/Choice.vue'
import { ElInput } from 'element-plus'
import { ref } from 'vue'
import FormulaHelp from '../text/FormulaHelp.vue'
import LiveFormula from './LiveFormula.vue'
import { useCaret } from '../text/useCaret'
import { FORMULA_ROWS, isLong } from './formulaSize'
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
  caret.again()
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

const isNumber = (typed: string) => /^\s*[-+\d.eE]+\s*$/.test(typed)

function choose(chosen: string) {
  text.value = props.single || !text.value.trim() ? chosen : `${text.value.trim()} ${chosen}`
  end()
  emit('commit', text.value)
}
</script>

<template>
  <div class="formula">
    <ElInput
      v-model="text"
      class="mono typed"
      :class="{ long: isLong(text) }"
      type="textarea"
      :autosize="FORMULA_ROWS"
      resize="none"
      :aria-label="label"
      :aria-invalid="invalid"
      :placeholder="placeholder"
      spellcheck="false"
      @input="typed"
      @blur="((caret.focused.value = false), settle())"
      @keydown="key($event as KeyboardEvent)"
      v-on="caret.listeners"
    />
    <Choice
      v-if="options?.length"
      class="pick"
      hint="names"
      :entries="entriesOf(options)"
      :label="`${label}: what exists`"
      title="What exists on the input"
      @choose="choose"
    />
    <FormulaHelp
      v-if="parameter && caret.focused.value"
      ref="help"
      :text="text"
      :cursor="caret.at.value"
      :parameter="parameter"
      @choose="complete"
    />
    <LiveFormula v-if="parameter && !isNumber(text)" :text="text" :parameter="parameter" />
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
.typed {
  flex: 1 1 60px;
  min-width: 0;
}
.long {
  flex-basis: 100%;
}
</style>
