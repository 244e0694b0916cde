<script setup lang="ts">
/** How the picture is drawn: its quality, the ground, and how solid faces are. */
import Menu from '../../shared/controls/Menu.vue'
import { ElButton, ElDropdownItem, ElDropdownMenu } from 'element-plus'
import { useView } from '../../stores/useView'
import { VEILS } from '../rendering/picture'
import { QUALITIES, type Quality } from '../rendering/qualities'

const props = defineProps<{ managed: Quality }>()
const view = useView()
const BY_ITSELF = () => `by itself (now ${props.managed})`

function choose(command: string) {
  const [what, value] = command.split(' ')
  if (what === 'quality') view.quality = (value ?? '') as typeof view.quality
  else if (what === 'veil') view.veil = value as typeof view.veil
  else view.ground = !view.ground
}
</script>

<template>
  <Menu placement="right-start" @command="choose">
    <ElButton text :aria-pressed="view.veil !== 'solid'" data-test="look" title="How the picture is drawn">
      light
    </ElButton>
    <template #entries>
      <ElDropdownMenu>
        <ElDropdownItem command="quality " :class="{ now: !view.quality }" data-test="quality-by-itself">{{
          BY_ITSELF()
        }}</ElDropdownItem>
        <ElDropdownItem
          v-for="one in QUALITIES"
          :key="one.name"
          :command="`quality ${one.name}`"
          :class="{ now: view.quality === one.name }"
          :data-test="`quality-${one.name}`"
          >{{ one.name }}<span class="help">{{ one.help }}</span></ElDropdownItem
        >
        <ElDropdownItem command="ground" divided data-test="ground">{{
          view.ground ? 'without the ground' : 'with the ground'
        }}</ElDropdownItem>
        <ElDropdownItem
          v-for="(veil, n) in VEILS"
          :key="veil"
          :command="`veil ${veil}`"
          :divided="n === 0"
          :class="{ now: view.veil === veil }"
          :data-test="`veil-${veil}`"
          >faces {{ veil === 'x-ray' ? 'as an x-ray' : veil }}</ElDropdownItem
        >
      </ElDropdownMenu>
    </template>
  </Menu>
</template>

<style scoped>
.el-button {
  justify-content: flex-start;
  width: 100%;
  min-height: 24px;
  padding: 0 7px;
}
.now {
  color: var(--accent);
  font-weight: 600;
}
.help {
  margin-left: 8px;
  color: var(--faint-ink);
  font-weight: 400;
}
</style>
