<script setup lang="ts">
/** A number, or a share of the shape's size: dragged on its slider, typed, stepped with the arrow keys; or a formula. */
import Slider from '../shared/controls/Slider.vue'
import { entriesOf } from '../shared/controls/choices'
import { FORMULA_ROWS, isLong } from './formulaSize'
import Choice from '../shared/controls/Choice.vue'
import { ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import FormulaHelp from '../text/FormulaHelp.vue'
import LiveFormula from './LiveFormula.vue'
import { useCaret } from '../text/useCaret'
import {
  fromText,
  isFormula,
  shareOf,
  shareRange,
  shareValue,
  stepped,
  toText,
  type Formula,
} from '../model/values/formula'
import { useTypedText } from './useTypedText'

const props = defineProps<{
  value: unknown
  label: string
  soft?: number[] | null
  low?: number | null
  high?: number | null
  step?: number | null
  unit?: string
  /** What the parameter has unless it is changed. */
  usual?: unknown
  whole?: boolean
  formulas?: boolean
  invalid?: boolean
  noSlider?: boolean
  /** What a formula can read here. */
  options?: string[]
  /** The parameter's name, if its formula is looked at while it is written. */
  parameter?: string
}>()
const emit = defineEmits<{ preview: [value: unknown]; commit: [value: unknown] }>()

const { text, begin, end, back } = useTypedText(() => props.value, toText)

const caret = useCaret()
const help = ref<{ key: (event: KeyboardEvent) => boolean }>()

function complete(next: string, cursor: number) {
  text.value = next
  typed()
  caret.move(cursor)
}

const formula = computed(() => typeof fromText(text.value) !== 'number')
const share = computed(() => (props.formulas ? shareOf(props.value) : null))
const step = computed(() => props.step ?? (props.whole ? 1 : 0.01))
const range = computed(() => {
  const [low, high] = props.soft ?? [0, 1]
  if (share.value !== null) return shareRange(share.value, shareOf(props.usual), low! < 0)
  const value = typeof props.value === 'number' ? props.value : 0
  return [Math.min(low!, value), Math.max(high!, value)]
})
const slide = computed(() =>
  share.value !== null
    ? { at: share.value, step: Number((range.value[1]! / 200).toPrecision(2)), name: 'share of the extent' }
    : { at: props.value as number, step: step.value, name: 'slider' },
)

function slid(value: number): number | Formula {
  return share.value === null ? value : shareValue(value)
}

function typed() {
  begin()
  caret.again()
  const value = fromText(text.value)
  if (typeof value === 'number' || props.formulas) emit('preview', value)
}

function settle() {
  if (!end()) return
  const value = fromText(text.value)
  if (typeof value === 'number' || (props.formulas && text.value.trim())) emit('commit', value)
  else text.value = toText(props.value)
}

function choose(name: string) {
  emit('commit', { formula: `${text.value.trim()} ${name}` })
}

function key(event: KeyboardEvent) {
  if (help.value?.key(event)) return
  if (event.key === 'Enter' && !event.shiftKey) {
    event.preventDefault()
    settle()
    ;(event.target as HTMLElement).blur()
  } else if (event.key === 'Escape') {
    emit('commit', back())
  } else if ((event.key === 'ArrowUp' || event.key === 'ArrowDown') && typeof fromText(text.value) === 'number') {
    event.preventDefault()
    const steps = (event.key === 'ArrowUp' ? 1 : -1) * (event.shiftKey ? 10 : 1)
    emit('commit', stepped(fromText(text.value) as number, steps, step.value, props.low, props.high))
  }
}
</script>

<template>
  <div class="number">
    <ElInput
      v-if="formulas"
      v-model="text"
      class="mono typed"
      :class="{ short: !formula, share: share !== null, long: formula && isLong(text) }"
      type="textarea"
      :autosize="FORMULA_ROWS"
      resize="none"
      :aria-label="label"
      :aria-invalid="invalid"
      spellcheck="false"
      @input="typed"
      @blur="((caret.focused.value = false), settle())"
      @keydown="key($event as KeyboardEvent)"
      v-on="caret.listeners"
    />
    <ElInput
      v-else
      v-model="text"
      class="mono short"
      :aria-label="label"
      :aria-invalid="invalid"
      inputmode="decimal"
      spellcheck="false"
      @input="typed"
      @blur="settle"
      @keydown="key($event as KeyboardEvent)"
    />
    <Choice
      v-if="formula && share === null && options?.length"
      class="pick"
      hint="names"
      :entries="entriesOf(options)"
      :label="`${label}: what exists`"
      title="What exists on the input"
      @choose="choose"
    />
    <span v-if="unit && !formula" class="faint unit">{{ unit }}</span>
    <Slider
      v-if="(share !== null || (!isFormula(value) && !formula)) && !noSlider"
      :low="range[0]!"
      :high="range[1]!"
      :step="slide.step"
      :value="slide.at"
      :usual="share !== null ? shareOf(usual) : typeof usual === 'number' ? usual : null"
      :label="`${label} ${slide.name}`"
      :title="
        share === null
          ? undefined
          : 'extent: the size of the shape, twice the way from its middle to the farthest point'
      "
      @turn="emit('preview', slid($event))"
      @settle="emit('commit', slid($event))"
    />
    <FormulaHelp
      v-if="parameter && formula && caret.focused.value"
      ref="help"
      :text="text"
      :cursor="caret.at.value"
      :parameter="parameter"
      @choose="complete"
    />
    <LiveFormula v-if="parameter && formula" :text="text" :parameter="parameter" />
  </div>
</template>

<style scoped>
.number {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  flex: 1;
  min-width: 0;
}
.typed {
  flex: 1 1 60px;
  min-width: 0;
}
.short {
  width: 78px;
  flex: 0 1 78px;
}
.share {
  flex: 0 0 134px;
}
.long {
  flex-basis: 100%;
}
.pick {
  align-self: flex-start;
}
.unit {
  flex: none;
}
</style>
