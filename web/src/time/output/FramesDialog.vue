<script setup lang="ts">
/** Saves all frames: the mesh of each one, pictures of the view, or a film. */
import { ElButton, ElDialog, ElInputNumber, ElProgress, ElRadioButton, ElRadioGroup, ElSwitch } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import Choice from '../../shared/controls/Choice.vue'
import { useCatalogue, written } from '../../stores/useCatalogue'
import { useTime } from '../../stores/useTime'
import type { ViewSurface } from '../../view/surface'
import { framesOf, useOutput } from './useOutput'

const props = defineProps<{ view: ViewSurface | undefined }>()
const emit = defineEmits<{ close: [] }>()
const time = useTime()
const { catalogue } = useCatalogue()
const output = useOutput(() => props.view)
const what = ref<'film' | 'files'>('film')
const wish = reactive({
  first: time.range.value[0],
  last: time.range.value[1],
  step: time.step.value,
  width: 1280,
  height: 720,
  backdrop: true,
  film: 'mp4',
  mesh: 'ply|binary',
})

const FILMS = [
  { value: 'mp4', label: 'MP4', help: 'film, H.264: plays everywhere' },
  { value: 'webm', label: 'WebM', help: 'film, VP9: may be see-through' },
  { value: 'webp', label: 'WebP', help: 'moving picture, may be see-through' },
  { value: 'gif', label: 'GIF', help: 'moving picture of 256 colours' },
  { value: 'png', label: 'PNG', help: 'one picture per frame, in a ZIP' },
]
const meshes = computed(() =>
  written(catalogue.formats).flatMap(([ending, format]) =>
    (format.options.encoding ?? ['']).map((encoding) => ({
      value: `${ending}|${encoding}`,
      label: `${format.name}${encoding ? `, ${encoding}` : ''}`,
      help: `keeps ${format.keeps}`,
    })),
  ),
)
const mesh = computed(() => (meshes.value.some((one) => one.value === wish.mesh) ? wish.mesh : meshes.value[0]?.value))
const count = computed(() => framesOf(wish).length)
const share = computed(() =>
  output.progress.value ? Math.round((100 * output.progress.value.done) / Math.max(output.progress.value.total, 1)) : 0,
)

/** How many files come of it, or how long a film. */
const told = computed(() => {
  const rate = time.timeline.value.rate / wish.step
  const frames = `${count.value} ${count.value === 1 ? 'frame' : 'frames'}`
  const isFilm = what.value === 'film' && wish.film !== 'png'
  const length = `${(count.value / rate).toFixed(1)} s at ${Number(rate.toFixed(2))} pictures per second`
  return isFilm ? `${frames}: ${length}` : `${frames}, in one ZIP`
})

async function save() {
  const { first, last, step, width, height, backdrop } = wish
  const [format = 'ply', encoding = ''] = (mesh.value ?? '').split('|')
  if (what.value === 'files') await output.files({ first, last, step, format, encoding })
  else
    await output.film({
      first,
      last,
      step,
      width,
      height,
      format: wish.film,
      backdrop: backdrop || wish.film === 'mp4',
    })
  if (!output.trouble.value) emit('close')
}

function close() {
  output.stop()
  emit('close')
}
</script>

<template>
  <ElDialog
    :model-value="true"
    data-help="time.html"
    title="Save all frames"
    width="min(520px, 94vw)"
    top="10vh"
    @close="close"
  >
    <div class="form" data-test="frames-dialog">
      <span>What</span>
      <ElRadioGroup v-model="what" aria-label="What is saved" :disabled="!!output.progress.value">
        <ElRadioButton value="film" data-test="save-film">what the view shows</ElRadioButton>
        <ElRadioButton value="files" data-test="save-files">the mesh</ElRadioButton>
      </ElRadioGroup>
      <span>Format</span>
      <Choice
        v-if="what === 'film'"
        :value="wish.film"
        :entries="FILMS"
        label="Format of the film"
        data-test="film-format"
        @choose="wish.film = $event"
      />
      <Choice
        v-else
        :value="mesh ?? ''"
        :entries="meshes"
        label="Format of the files"
        data-test="mesh-format"
        @choose="wish.mesh = $event"
      />
      <span>Frames</span>
      <div class="line">
        <ElInputNumber v-model="wish.first" :precision="0" :controls="false" aria-label="First frame" />
        to
        <ElInputNumber v-model="wish.last" :precision="0" :controls="false" aria-label="Last frame" />
        every
        <ElInputNumber
          v-model="wish.step"
          :precision="0"
          :min="1"
          :controls="false"
          aria-label="Every how many frames"
        />
      </div>
      <template v-if="what === 'film'">
        <span>Size</span>
        <div class="line">
          <ElInputNumber
            v-model="wish.width"
            :min="16"
            :max="7680"
            :step="2"
            step-strictly
            :controls="false"
            aria-label="Width in pixels"
            data-test="film-width"
          />
          by
          <ElInputNumber
            v-model="wish.height"
            :min="16"
            :max="4320"
            :step="2"
            step-strictly
            :controls="false"
            aria-label="Height in pixels"
            data-test="film-height"
          />
          pixels
        </div>
        <span>Backdrop</span>
        <div class="line">
          <ElSwitch v-model="wish.backdrop" :disabled="wish.film === 'mp4'" aria-label="Backdrop" />
          <span class="faint">{{
            wish.film === 'mp4' ? 'always: MP4 holds nothing see-through' : wish.backdrop ? 'drawn' : 'see-through'
          }}</span>
        </div>
      </template>
      <span />
      <span class="faint">
        {{ told }}
      </span>
    </div>
    <p v-if="output.trouble.value" class="bad" role="alert">{{ output.trouble.value }}</p>
    <div v-if="output.progress.value" class="progress" role="status">
      <ElProgress :percentage="share" />
      <span class="faint">{{ output.progress.value.what }}</span>
    </div>
    <template #footer>
      <ElButton v-if="output.progress.value" data-test="stop-frames" @click="output.stop()">Stop</ElButton>
      <template v-else>
        <ElButton @click="close">Cancel</ElButton>
        <ElButton type="primary" :disabled="!count" data-test="save-frames" @click="save">Save</ElButton>
      </template>
    </template>
  </ElDialog>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: 92px 1fr;
  align-items: center;
  gap: 10px;
}
.line {
  display: flex;
  align-items: center;
  gap: 8px;
}
.line .el-input-number {
  width: 84px;
}
.progress {
  margin-top: 12px;
}
.bad {
  color: var(--bad);
}
</style>
