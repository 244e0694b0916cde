<script setup lang="ts">
/** The wall: a small picture of each variant, all seen from the same side; dragging turns all, the wheel scrolls. */
import { useElementSize, useEventListener } from '@vueuse/core'
import { ElEmpty } from 'element-plus'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { api } from '../api/client'
import { grouped, said, type Variant } from '../model/sheets'
import { useTheme } from '../stores/useTheme'
import { paletteOf } from '../view/rendering/palette'
import ProofCanvas from './ProofCanvas.vue'
import { FIRST, Proofs } from './proofs'
import { useSheets } from './useSheets'
import { useWall } from './useWall'

const props = defineProps<{ oneScale: boolean; least: number }>()
const sheets = useSheets()
const { theme } = useTheme()
const host = ref<HTMLElement>()
const { width, height } = useElementSize(host)
const scrolled = ref(0)
const CAPTION = 40
const groups = computed(() => grouped(sheets.shown.value, sheets.column(sheets.group.value)))
/** Those that are compared fill the wall. */
const cell = computed(() => {
  if (!sheets.comparing.value) return { least: props.least, tall: Math.round(props.least * 0.8) + CAPTION }
  const across = Math.min(sheets.shown.value.length, width.value > 900 ? 3 : 2) || 1
  const down = Math.ceil(sheets.shown.value.length / across)
  return {
    least: Math.floor((width.value - 8) / across) - 8,
    tall: Math.max(Math.floor((height.value - 8) / Math.min(down, 2)) - 8, 160),
  }
})
const wall = useWall(groups, width, height, scrolled, cell)
const lookedAt = computed(() => sheets.column(sheets.sort.value))

const proofs = new Proofs((key) => api.drawn(key.split('/')[0]!, Number(key.split('/')[1])))
proofs.setPalette(paletteOf(theme.value))
const keyOf = (one: Variant) => `${sheets.sheet.value?.id}/${one.number}/${one.picture}`
watch(
  () => props.oneScale,
  (on) => {
    proofs.oneScale = on
    proofs.redraw()
  },
  { immediate: true },
)
watch([cell, width], () => requestAnimationFrame(() => proofs.redraw()))
watch(theme, () => {
  proofs.setPalette(paletteOf(theme.value))
  proofs.redraw()
})
watch(
  () => sheets.sheet.value?.id,
  () => {
    proofs.reset()
    proofs.framing = FIRST
    scrolled.value = 0
    host.value?.scrollTo(0, 0)
  },
)
watch([sheets.sort, sheets.descending, sheets.group, sheets.comparing], () => host.value?.scrollTo(0, 0))
onBeforeUnmount(() => proofs.dispose())

/** A drag turns all shapes; a press that does not move chooses. */
const FULL_TURN_PX = 500
let from: { x: number; y: number; moved: boolean } | null = null
useEventListener(host, 'pointerdown', (event: PointerEvent) => {
  if ((event.target as HTMLElement).closest('canvas')) from = { x: event.clientX, y: event.clientY, moved: false }
})
useEventListener(window, 'pointermove', (event: PointerEvent) => {
  if (!from || !(event.buttons & 1)) return
  const [x, y] = [event.clientX - from.x, event.clientY - from.y]
  if (!from.moved && Math.hypot(x, y) < 4) return
  const { turn, tilt, zoom } = proofs.framing
  const step = (2 * Math.PI) / FULL_TURN_PX
  const held = Math.min(Math.max(tilt + y * step, -1.55), 1.55)
  proofs.framing = { turn: turn - x * step, tilt: held, zoom }
  from = { x: event.clientX, y: event.clientY, moved: true }
  proofs.redraw()
})
useEventListener(window, 'pointerup', () => setTimeout(() => (from = null)))
useEventListener(
  host,
  'wheel',
  (event: WheelEvent) => {
    if (!event.ctrlKey && !sheets.comparing.value) return
    event.preventDefault()
    const zoom = Math.min(Math.max(proofs.framing.zoom * Math.exp(-event.deltaY / 400), 0.5), 12)
    proofs.framing = { ...proofs.framing, zoom }
    proofs.redraw()
  },
  { passive: false },
)

function press(one: Variant, event: MouseEvent | KeyboardEvent) {
  if (event instanceof MouseEvent && from?.moved) return
  sheets.choose(one.number, event.shiftKey || event.ctrlKey || event.metaKey)
}

/** What is said below a picture: the value that one sorts by, or the first two that were turned. */
function caption(one: Variant): string {
  const sort = lookedAt.value
  const sought = sheets.aims.value.flatMap((key) => sheets.column(key) ?? [])
  const usual = sought.length ? sought : sheets.columns.value.slice(1, 3)
  const column = sort && !['number', 'verdict'].includes(sort.key) ? [sort] : usual
  return column.map((each) => said(each, one)).join(', ')
}
const whole = (one: Variant) =>
  sheets.columns.value
    .slice(1)
    .map((each) => said(each, one))
    .join('\n')
</script>

<template>
  <div ref="host" class="wall" data-test="wall" @scroll="scrolled = ($event.target as HTMLElement).scrollTop">
    <ElEmpty v-if="!sheets.shown.value.length" :image-size="60" description="No variant is like that." />
    <div class="tall" :style="{ height: `${wall.tall.value}px` }">
      <template v-for="strip in wall.inSight.value" :key="`${strip.at} ${strip.title}`">
        <h3 v-if="strip.title" :style="{ top: `${strip.at}px` }">{{ strip.title }}</h3>
        <div
          v-else
          class="strip"
          :style="{
            top: `${strip.at}px`,
            height: `${cell.tall}px`,
            gridTemplateColumns: `repeat(${wall.across.value}, minmax(0, 1fr))`,
          }"
        >
          <figure
            v-for="one in strip.cells"
            :key="one.number"
            :class="[
              one.state,
              { chosen: sheets.chosen.value.has(one.number), unmet: one.state === 'done' && !one.meets },
            ]"
            :title="one.error || whole(one)"
            tabindex="0"
            role="button"
            :aria-pressed="sheets.chosen.value.has(one.number)"
            :aria-label="`Variant ${one.number}: ${one.error || caption(one)}`"
            :data-test="`variant-${one.number}`"
            @click="press(one, $event)"
            @keydown.enter.prevent="press(one, $event)"
            @keydown.space.prevent="press(one, $event)"
          >
            <ProofCanvas v-if="one.state === 'done' && one.picture" :proofs="proofs" :of="keyOf(one)" />
            <p v-else-if="one.state === 'failed'" class="error">{{ one.error }}</p>
            <p v-else class="faint">{{ one.state === 'open' ? 'not made yet' : 'nothing to see' }}</p>
            <figcaption>
              <b :class="{ best: sheets.best.value.has(one.number) }"
                >{{ sheets.best.value.has(one.number) ? '★ ' : '' }}{{ one.number }}</b
              >
              <span>{{ caption(one) }}</span>
            </figcaption>
          </figure>
        </div>
      </template>
    </div>
  </div>
</template>

<style scoped>
.wall {
  position: relative;
  min-width: 0;
  min-height: 0;
  overflow: hidden auto;
  background: linear-gradient(var(--backdrop-top), var(--backdrop-bottom));
}
.tall {
  position: relative;
}
h3 {
  position: absolute;
  left: 10px;
  margin: 0;
  font-size: 14px;
  line-height: 28px;
}
.strip {
  position: absolute;
  right: 8px;
  left: 8px;
  display: grid;
  gap: 8px;
}
figure {
  display: flex;
  flex-direction: column;
  min-width: 0;
  margin: 0;
  overflow: hidden;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: color-mix(in srgb, var(--sheet) 55%, transparent);
  cursor: pointer;
}
figure:hover {
  border-color: var(--strong-line);
}
figure.unmet {
  opacity: 0.6;
}
.best {
  color: var(--accent-ink, var(--accent));
}
figure.chosen {
  border-color: var(--accent);
  box-shadow: 0 0 0 1px var(--accent);
}
figure:focus-visible {
  outline: 2px solid var(--accent);
  outline-offset: 1px;
}
p {
  flex: 1;
  margin: 0;
  padding: 8px;
  overflow: hidden;
  font-size: 13px;
}
.faint {
  display: grid;
  place-items: center;
}
.error {
  color: var(--bad);
}
figcaption b {
  margin-right: 4px;
}
figcaption {
  height: 40px;
  padding: 3px 7px;
  overflow: hidden;
  border-top: 1px solid var(--line);
  background: var(--sheet);
  font-size: 12px;
  line-height: 16px;
}
</style>
