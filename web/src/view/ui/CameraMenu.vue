<script setup lang="ts">
/** Where the camera stands: along an axis, with parallel rays, or at a standpoint that is kept with the graph. */
import Menu from '../../shared/controls/Menu.vue'
import { ElButton, ElDropdownItem, ElDropdownMenu } from 'element-plus'
import { computed } from 'vue'
import { askName } from '../../shared/askName'
import { useGraph } from '../../stores/useGraph'
import type { Direction, Standpoint } from '../camera/cameras'

const props = defineProps<{ parallel: boolean; keep: (name: string) => Standpoint | null }>()
const emit = defineEmits<{ along: [direction: Direction]; parallel: []; go: [kept: Standpoint] }>()
const graph = useGraph()
const WAYS: Direction[] = ['front', 'side', 'top', 'corner']

/** Standpoints belong to the graph: whoever opens it finds them, and undo takes them back. */
const kept = computed<Standpoint[]>(() =>
  Object.entries(graph.document.value.standpoints ?? {}).map(([name, one]) => ({
    ...one,
    name,
    parallel: one.parallel ?? false,
  })),
)

async function camera(command: string) {
  if (WAYS.includes(command as Direction)) emit('along', command as Direction)
  else if (command === 'parallel') emit('parallel')
  else if (command.startsWith('go ')) emit('go', kept.value[Number(command.slice(3))]!)
  else if (command.startsWith('forget '))
    graph.edit(`forget the standpoint ${command.slice(7)}`, (next) => void delete next.standpoints![command.slice(7)])
  else {
    const name = await askName('Keep this standpoint', 'Keep')
    const made = name ? props.keep(name) : null
    if (made)
      graph.edit(
        `keep the standpoint ${name}`,
        (next) =>
          (next.standpoints = {
            ...next.standpoints,
            [name]: { position: made.position, target: made.target, parallel: made.parallel },
          }),
      )
  }
}
</script>

<template>
  <Menu placement="right-start" @command="camera">
    <ElButton text data-test="camera" title="Where the camera stands">camera</ElButton>
    <template #entries>
      <ElDropdownMenu>
        <ElDropdownItem v-for="way in WAYS" :key="way" :command="way" :data-test="`camera-${way}`"
          >from the {{ way }}</ElDropdownItem
        >
        <ElDropdownItem command="parallel" divided data-test="camera-parallel">{{
          parallel ? 'with perspective' : 'parallel rays, nothing smaller far away'
        }}</ElDropdownItem>
        <ElDropdownItem
          v-for="(one, n) in kept"
          :key="one.name"
          :command="`go ${n}`"
          :divided="n === 0"
          :data-test="`standpoint-${one.name}`"
          >{{ one.name
          }}<ElButton
            v-if="!graph.fixed.value"
            class="forget"
            text
            :aria-label="`Forget ${one.name}`"
            title="Forget it"
            @click.stop="camera(`forget ${one.name}`)"
          >
            ×
          </ElButton></ElDropdownItem
        >
        <ElDropdownItem command="keep" divided data-test="camera-keep">Keep this standpoint…</ElDropdownItem>
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
.forget {
  width: auto;
  min-height: 20px;
  margin-left: auto;
  padding: 0 6px;
}
</style>
