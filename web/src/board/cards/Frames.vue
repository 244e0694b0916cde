<script setup lang="ts">
/** Frames around cards, with a title and a note. They lie behind the cards and move with the board. */
import TextField from '../../shared/controls/TextField.vue'
import { useVueFlow } from '@vue-flow/core'
import { ElButton, ElMessageBox } from 'element-plus'
import { computed } from 'vue'
import { useGraph } from '../../stores/useGraph'
import { frameBox, type Place, type Size } from '../../model/layout'

const props = defineProps<{ places: Record<string, Place>; sizes: Record<string, Size> }>()
const emit = defineEmits<{ select: [ids: string[]] }>()
const graph = useGraph()
const { viewport } = useVueFlow('board')

const frames = computed(() =>
  Object.entries(graph.document.value.frames ?? {}).flatMap(([key, frame]) => {
    const box = frameBox(frame.nodes, props.places, props.sizes)
    return box
      ? [
          {
            key,
            frame,
            style: { left: `${box.x}px`, top: `${box.y}px`, width: `${box.width}px`, height: `${box.height}px` },
          },
        ]
      : []
  }),
)
const shift = computed(() => ({
  transform: `translate(${viewport.value.x}px, ${viewport.value.y}px) scale(${viewport.value.zoom})`,
}))

function retitle(key: string, text: string) {
  graph.edit('title a frame', (next) => (next.frames![key]!.title = text.trim()))
}

async function annotate(key: string) {
  const now = graph.document.value.frames![key]!.note ?? ''
  const answer = await ElMessageBox.prompt('What these cards are for:', 'Note of the frame', {
    inputType: 'textarea',
    inputValue: now,
    confirmButtonText: 'Keep',
    cancelButtonText: 'Cancel',
  }).catch(() => null)
  if (answer)
    graph.edit(
      'note on a frame',
      (next) => (next.frames![key]!.note = ((answer as { value?: string }).value ?? '').trim()),
    )
}

function drop(key: string) {
  graph.edit('remove a frame', (next) => delete next.frames![key])
}
</script>

<template>
  <div class="frames" :style="shift">
    <div v-for="entry in frames" :key="entry.key" class="frame" :style="entry.style" :data-test="`frame-${entry.key}`">
      <header>
        <TextField
          class="title bare"
          :value="entry.frame.title"
          placeholder="Frame"
          label="Title of the frame"
          @settle="retitle(entry.key, $event)"
        />
        <ElButton text title="Choose the cards in it" @click="emit('select', entry.frame.nodes)">cards</ElButton>
        <ElButton text title="Write a note" @click="annotate(entry.key)">note</ElButton>
        <ElButton text title="Remove the frame; the cards stay" aria-label="Remove the frame" @click="drop(entry.key)">
          ×
        </ElButton>
      </header>
      <p v-if="entry.frame.note" class="faint">{{ entry.frame.note }}</p>
    </div>
  </div>
</template>

<style scoped>
.frames {
  position: absolute;
  inset: 0;
  z-index: 1;
  width: 0;
  height: 0;
  transform-origin: 0 0;
}
.frame {
  position: absolute;
  border: 1px dashed var(--strong-line);
  border-radius: 9px;
  background: color-mix(in srgb, var(--accent) 5%, transparent);
  pointer-events: none;
}
header {
  display: flex;
  align-items: center;
  gap: 2px;
  padding: 1px 6px;
  pointer-events: auto;
}
.title {
  flex: 1;
  min-width: 0;
  font-weight: 700;
  font-size: 13px;
}
.el-button {
  min-height: 20px;
  padding: 0 4px;
  font-size: 12px;
  color: var(--faint-ink);
}
p {
  margin: 0;
  padding: 0 8px;
  overflow: hidden;
  font-size: 12px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
