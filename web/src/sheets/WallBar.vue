<script setup lang="ts">
/** What the wall shows, in which order, and how large. */
import { watchDebounced } from '@vueuse/core'
import { ElButton, ElCheckbox, ElInput, ElSlider } from 'element-plus'
import { computed } from 'vue'
import Choice from '../shared/controls/Choice.vue'
import { count } from '../shared/numbers'
import { useSheets } from './useSheets'

const oneScale = defineModel<boolean>('oneScale', { required: true })
const least = defineModel<number>('least', { required: true })
const sheets = useSheets()
const orders = computed(() => sheets.columns.value.map((one) => ({ value: one.key, label: one.title })))
const NOT = '-'
const groups = computed(() => [
  { value: NOT, label: 'not grouped' },
  ...sheets.columns.value
    .filter((one) => one.key.startsWith('values.'))
    .map((one) => ({ value: one.key, label: one.title })),
])
watchDebounced(sheets.where, () => void sheets.match(), { debounce: 300 })
const narrowed = computed(() => sheets.shown.value.length !== sheets.variants.value.length)
</script>

<template>
  <div class="bar">
    <Choice
      :value="sheets.sort.value"
      :entries="orders"
      label="Order"
      data-test="order"
      @choose="sheets.sort.value = $event"
    />
    <ElButton
      text
      :title="sheets.descending.value ? 'the largest first' : 'the smallest first'"
      :aria-label="sheets.descending.value ? 'the largest first' : 'the smallest first'"
      data-test="direction"
      @click="sheets.descending.value = !sheets.descending.value"
      >{{ sheets.descending.value ? '↓' : '↑' }}</ElButton
    >
    <Choice
      :value="sheets.group.value || NOT"
      :entries="groups"
      label="Group"
      data-test="group"
      @choose="sheets.group.value = $event === NOT ? '' : $event"
    />
    <ElInput
      v-model="sheets.where.value"
      class="where"
      clearable
      placeholder="only where … e.g. area < 2"
      aria-label="Only variants where a formula holds"
      :title="sheets.whereTrouble.value || 'a formula that reads what was turned and noted, by name'"
      :class="{ bad: sheets.whereTrouble.value }"
      spellcheck="false"
      data-test="where"
    />
    <ElCheckbox
      v-if="sheets.sheet.value?.plan.seek"
      v-model="sheets.onlyBest.value"
      :title="`${sheets.aims.value.length > 1 ? 'no other is as good in every aim and better in one' : 'no other is better'}`"
      data-test="only-best"
      >★ best only</ElCheckbox
    >
    <span v-if="narrowed" class="faint" data-test="shown">{{ count(sheets.shown.value.length) }} shown</span>
    <span class="gap" />
    <ElCheckbox v-model="oneScale" title="draw all at one scale, so that what is larger looks larger"
      >one scale</ElCheckbox
    >
    <ElSlider
      v-model="least"
      class="size"
      :min="96"
      :max="360"
      :show-tooltip="false"
      aria-label="Size of the pictures"
    />
  </div>
  <p v-if="sheets.whereTrouble.value" class="trouble" role="alert">{{ sheets.whereTrouble.value }}</p>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  padding: 6px 10px;
  border-bottom: 1px solid var(--line);
}
.bar .choice {
  width: 112px;
}
.where {
  width: 190px;
}
.bad :deep(.el-input__wrapper) {
  box-shadow: 0 0 0 1px var(--bad) inset;
}
.gap {
  flex: 1;
}
.size {
  width: 80px;
}
.trouble {
  margin: 0;
  padding: 3px 10px;
  color: var(--bad);
  font-size: 12px;
}
</style>
