<script setup lang="ts">
/** A text that counts once it is finished: with Enter, or when the field is left; Escape takes back what was typed. */
import { ElInput } from 'element-plus'
import { nextTick, ref, useTemplateRef, watch } from 'vue'

const props = defineProps<{ value: string | number | null | undefined; label: string; lines?: number }>()
const emit = defineEmits<{ type: [text: string]; settle: [text: string] }>()
const field = useTemplateRef<InstanceType<typeof ElInput>>('field')
const draft = ref('')
/** What is being typed stays, also if somebody else sets the value meanwhile. */
let typing = false
watch(
  () => props.value,
  (value) => {
    if (!typing) draft.value = String(value ?? '')
  },
  { immediate: true },
)

function type(text: string) {
  typing = true
  emit('type', text)
}

function settle(text: string) {
  typing = false
  emit('settle', text)
}

/** Left without a change, it shows the value as it is now. */
async function leave() {
  await nextTick()
  if (typing) draft.value = String(props.value ?? '')
  typing = false
}

async function giveUp() {
  typing = false
  draft.value = String(props.value ?? '')
  await nextTick()
  field.value?.blur()
}
defineExpose({ focus: () => field.value?.focus(), select: () => field.value?.select() })
</script>

<template>
  <ElInput
    ref="field"
    v-model="draft"
    :type="lines ? 'textarea' : 'text'"
    :rows="lines"
    :aria-label="label"
    spellcheck="false"
    @input="type"
    @change="settle"
    @blur="leave"
    @keydown.enter="lines || field?.blur()"
    @keydown.esc="giveUp"
  />
</template>
