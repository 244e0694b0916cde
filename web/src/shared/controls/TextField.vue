<script setup lang="ts">
/** A text that counts once it is finished: with Enter, or when the field is left; Escape takes back what was typed. */
import { ElInput } from 'element-plus'
import { nextTick, ref, useTemplateRef, watch } from 'vue'

const props = defineProps<{ value: string | number | null | undefined; label: string; lines?: number }>()
const emit = defineEmits<{ type: [text: string]; settle: [text: string] }>()
const field = useTemplateRef<InstanceType<typeof ElInput>>('field')
const draft = ref('')
watch(
  () => props.value,
  (value) => (draft.value = String(value ?? '')),
  { immediate: true },
)

async function giveUp() {
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
    @input="emit('type', $event)"
    @change="emit('settle', $event)"
    @keydown.enter="lines || field?.blur()"
    @keydown.esc="giveUp"
  />
</template>
