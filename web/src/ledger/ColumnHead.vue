<script setup lang="ts">
/** The head of a column: a click sorts by it; its menu renames, converts, moves, hides and removes the attribute. */
import Menu from '../shared/controls/Menu.vue'
import { ElButton, ElDropdownItem, ElDropdownMenu } from 'element-plus'
import { convertible } from '../stores/attributeTypes'
import type { Cell } from './useRows'

defineProps<{ cell: Cell; direction: 'none' | 'ascending' | 'descending' }>()
const emit = defineEmits<{ order: []; act: [command: string] }>()
const ARROWS = { none: '', ascending: ' ↑', descending: ' ↓' }
</script>

<template>
  <div class="cell column" role="columnheader" :aria-sort="direction" :class="{ text: cell.type === 'text' }">
    <ElButton text :title="`${cell.type}; click to sort`" :data-test="`column-${cell.title}`" @click="emit('order')">
      {{ cell.title }}<span v-if="cell.unit" class="unit faint">{{ cell.unit }}</span
      >{{ ARROWS[direction] }}
    </ElButton>
    <Menu v-if="!cell.fixed && cell.part < 1" @command="emit('act', $event)">
      <ElButton text class="more" :aria-label="`More for ${cell.name}`" :data-test="`more-column-${cell.name}`"
        >⋮</ElButton
      >
      <template #entries>
        <ElDropdownMenu>
          <ElDropdownItem command="rename" :data-test="`rename-column-${cell.name}`">Rename…</ElDropdownItem>
          <ElDropdownItem v-for="type in convertible(cell.type)" :key="type" :command="type"
            >as {{ type }}</ElDropdownItem
          >
          <ElDropdownItem command="remove" divided :data-test="`remove-column-${cell.name}`">Remove</ElDropdownItem>
          <ElDropdownItem command="left" divided :data-test="`left-column-${cell.name}`"
            >Move to the left</ElDropdownItem
          >
          <ElDropdownItem command="right">Move to the right</ElDropdownItem>
          <ElDropdownItem command="hide">Hide this column</ElDropdownItem>
        </ElDropdownMenu>
      </template>
    </Menu>
  </div>
</template>

<style scoped>
.cell {
  padding: 0 10px;
  text-align: right;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  min-width: 86px;
  max-width: 260px;
  font-weight: 600;
}
.cell.text {
  text-align: left;
}
.column {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 1px;
  cursor: default;
}
.column .el-button {
  padding: 0;
  border: 0;
  background: none;
  font-weight: 600;
  cursor: pointer;
}
.column .more {
  padding: 0 2px;
  color: var(--faint-ink);
}
.unit {
  margin-left: 5px;
  font-weight: 400;
}
</style>
