<script setup lang="ts">
/** Tools at the edge of the picture: how to pick, what to look at closer, where the camera stands, and a still picture. */
import Menu from '../../shared/controls/Menu.vue'
import { useKeys } from '../../stores/useKeys'
import { ElButton, ElDropdownItem, ElDropdownMenu } from 'element-plus'
import { computed } from 'vue'
import type { Kind } from '../../api/results'
import KindGlyph from '../../shared/KindGlyph.vue'
import { count } from '../../shared/numbers'
import { useInspection } from '../../stores/useInspection'
import { useSelection } from '../../stores/useSelection'
import { useView } from '../../stores/useView'
import type { Direction, Standpoint } from '../camera/cameras'
import { PANELS } from '../inspect/panels'
import { STILLS, type StillWish } from '../tools/useSnapshot'
import { useElementTools } from '../picking/useElementTools'
import type { ToolKind } from '../tools/tool'
import type { Quality } from '../rendering/qualities'
import CameraMenu from './CameraMenu.vue'
import LookMenu from './LookMenu.vue'

const { hint } = useKeys()

/** `placed`: whether shapes stand here as instances, that can be picked. */
const props = defineProps<{
  placed: boolean
  tools: ToolKind[]
  parallel: boolean
  managed: Quality
  keep: (name: string) => Standpoint | null
}>()
const emit = defineEmits<{
  along: [direction: Direction]
  parallel: []
  go: [kept: Standpoint]
  still: [wish: StillWish]
  frame: [chosen: boolean]
}>()
const view = useView()
const selection = useSelection()
const inspect = useInspection()
const { makeGroup, spread } = useElementTools()
const picked = computed<Kind[]>(() => [
  'point',
  'edge',
  'corner',
  'face',
  ...(props.placed ? (['instance'] as const) : []),
])
</script>

<template>
  <div class="rail" role="toolbar" aria-label="Tools" aria-orientation="vertical">
    <div class="kinds" role="radiogroup" aria-label="Pick">
      <ElButton
        v-for="kind in picked"
        :key="kind"
        text
        role="radio"
        :aria-checked="selection.kind.value === kind"
        :title="`Pick ${kind}s`"
        :aria-label="`Pick ${kind}s`"
        @click="selection.kind.value = kind"
      >
        <KindGlyph :kind="kind" />
      </ElButton>
    </div>
    <ElButton
      v-for="tool in tools"
      :key="tool.name"
      text
      :aria-pressed="view.tool === tool.name"
      :title="tool.help"
      :data-test="`tool-${tool.name}`"
      @click="view.tool = tool.name"
    >
      {{ tool.name }}
    </ElButton>
    <template v-if="selection.chosen.value.size">
      <hr />
      <span class="faint" data-test="chosen-count">{{ count(selection.chosen.value.size) }} picked</span>
      <template v-if="selection.kind.value === 'edge'">
        <ElButton text title="Take in all edges that follow end to end" data-test="spread-loop" @click="spread('loop')">
          loop
        </ElButton>
        <ElButton
          text
          title="Take in all edges that lie side by side, from quad to quad"
          data-test="spread-ring"
          @click="spread('ring')"
        >
          ring
        </ElButton>
      </template>
      <template v-if="['point', 'face'].includes(selection.kind.value)">
        <ElButton text title="Take in what is around" data-test="spread-grow" @click="spread('grow')"> grow </ElButton>
        <ElButton text title="Leave out the rim" @click="spread('shrink')">shrink</ElButton>
      </template>
      <ElButton text title="Take in all of their connected parts" @click="spread('piece')">piece</ElButton>
      <ElButton
        text
        title="Keep them as a group, as a card after what is shown"
        data-test="make-group"
        @click="makeGroup"
      >
        group
      </ElButton>
    </template>
    <hr />
    <ElButton
      v-for="entry in PANELS.filter((one) => !one.away)"
      :key="entry.name"
      text
      :aria-pressed="inspect.panel.value === entry.name"
      :data-test="`panel-${entry.name}`"
      :title="entry.help"
      @click="inspect.toggle(entry.name)"
    >
      {{ entry.name }}
    </ElButton>
    <hr />
    <ElButton
      text
      :title="`Show the whole shape${hint('Frame')}; what is picked${hint('Frame selection') || ' with Shift'}`"
      data-test="frame"
      @click="emit('frame', $event.shiftKey)"
    >
      frame
    </ElButton>
    <CameraMenu
      :parallel="parallel"
      :keep="keep"
      @along="emit('along', $event)"
      @parallel="emit('parallel')"
      @go="emit('go', $event)"
    />
    <LookMenu :managed="managed" />
    <Menu placement="right-start" @command="view.cut = $event">
      <ElButton text :aria-pressed="view.cut !== ''" data-test="section" title="Cut the picture open along a plane">
        section
      </ElButton>
      <template #entries>
        <ElDropdownMenu>
          <ElDropdownItem
            v-for="axis in ['x', 'y', 'z'] as const"
            :key="axis"
            :command="axis"
            :data-test="`section-${axis}`"
            >across {{ axis }}</ElDropdownItem
          >
          <ElDropdownItem command="" divided>no section</ElDropdownItem>
        </ElDropdownMenu>
      </template>
    </Menu>
    <Menu placement="right-start" @command="emit('still', $event)">
      <ElButton text data-test="still" title="A still picture as PNG">still</ElButton>
      <template #entries>
        <ElDropdownMenu>
          <ElDropdownItem
            v-for="wish in STILLS"
            :key="wish.name"
            :command="wish"
            :data-test="`still-${wish.name.replaceAll(' ', '-')}`"
            >{{ wish.title }}</ElDropdownItem
          >
        </ElDropdownMenu>
      </template>
    </Menu>
  </div>
</template>

<style scoped>
.rail {
  display: flex;
  flex: none;
  flex-direction: column;
  align-items: stretch;
  padding: 3px;
  overflow-y: auto;
  border-right: 1px solid var(--line);
  background: var(--sheet);
  font-size: 12.5px;
}
.el-button {
  justify-content: flex-start;
  width: 100%;
  min-height: 24px;
  padding: 0 7px;
}
.kinds {
  display: grid;
  grid-template-columns: 1fr 1fr;
}
.kinds .el-button {
  justify-content: center;
}
.rail :deep(.el-dropdown) {
  font-size: inherit;
}
hr {
  width: 100%;
  margin: 2px 0;
  border: 0;
  border-top: 1px solid var(--line);
}
.faint {
  padding: 0 7px;
  font-size: 12px;
}
</style>
