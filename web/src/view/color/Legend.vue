<script setup lang="ts">
/** What the colours mean, with the real range of the values, how they are spread, and which part of them the scale covers. */
import Choice from '../../shared/controls/Choice.vue'
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { count, short } from '../../shared/numbers'
import type { Legend } from './colors'
import { SCALES } from './scales'
import { useView } from '../../stores/useView'

const props = defineProps<{ legend: Legend; kind: string }>()
const view = useView()
const plural = (n: number) => `${count(n)} ${props.kind === 'whole' ? '' : n === 1 ? props.kind : `${props.kind}s`}`
const percent = (part: number, total: number) => `${total ? ((part / total) * 100).toFixed(1) : 0} %`
const bars = computed(() => {
  const bins = props.legend.form === 'range' ? props.legend.histogram : []
  const most = Math.max(...bins, 1)
  return bins.map((held) => (held ? Math.max(Math.sqrt(held / most), 0.04) : 0))
})
/** Where an end of the scale stands among the values, 0..1. */
const share = (value: number) =>
  props.legend.form === 'range' ? (value - props.legend.low) / (props.legend.high - props.legend.low || 1) : 0

function set(side: 0 | 1, value: number) {
  if (props.legend.form !== 'range' || !Number.isFinite(value)) return
  const range: [number, number] = view.range ? [...view.range] : [props.legend.from, props.legend.to]
  range[side] = value
  if (range[1] > range[0]) view.range = range
}

/** Drag an end along the histogram. */
function drag(side: 0 | 1, event: PointerEvent) {
  const track = (event.currentTarget as HTMLElement).parentElement!.getBoundingClientRect()
  const move = (at: PointerEvent) => {
    if (props.legend.form !== 'range') return
    const to = Math.min(Math.max((at.clientX - track.left) / track.width, 0), 1)
    set(side, props.legend.low + to * (props.legend.high - props.legend.low))
  }
  const end = () => {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', end)
  }
  window.addEventListener('pointermove', move)
  window.addEventListener('pointerup', end)
  event.preventDefault()
}

function step(side: 0 | 1, event: KeyboardEvent) {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (!by || props.legend.form !== 'range') return
  event.preventDefault()
  const ends = view.range ?? [props.legend.from, props.legend.to]
  set(side, ends[side] + (by * (props.legend.high - props.legend.low)) / 50)
}
</script>

<template>
  <div class="legend floating" data-test="legend">
    <div class="title">
      <b class="mono">{{ legend.title }}</b>
      <span v-if="legend.form !== 'material' && legend.form !== 'checker'" class="faint"
        ><template v-if="legend.form === 'range' && legend.unit">in {{ legend.unit }}, </template>per {{ kind }}</span
      >
      <Choice
        v-if="legend.form === 'range'"
        class="scales"
        :value="view.scale"
        :entries="SCALES.map((entry) => ({ value: entry.name, label: entry.name, help: entry.help }))"
        label="Scale"
        data-test="scale"
        @choose="view.scale = $event as typeof view.scale"
      />
    </div>
    <template v-if="legend.form === 'range'">
      <div
        v-if="bars.length && !legend.distinct"
        class="bars"
        data-test="histogram"
        title="How the values are spread; drag the ends to fit the scale to a part of them"
      >
        <i v-for="(bar, n) in bars" :key="n" :style="{ height: `${bar * 100}%` }" />
        <span
          v-for="side in [0, 1] as const"
          :key="side"
          class="end"
          role="slider"
          tabindex="0"
          :aria-label="side ? 'Upper end of the scale' : 'Lower end of the scale'"
          :aria-valuenow="side ? legend.to : legend.from"
          :aria-valuemin="legend.low"
          :aria-valuemax="legend.high"
          :style="{ left: `${Math.min(Math.max(share(side ? legend.to : legend.from), 0), 1) * 100}%` }"
          :data-test="`range-${side ? 'high' : 'low'}`"
          @pointerdown="drag(side, $event)"
          @keydown="step(side, $event)"
        />
      </div>
      <template v-if="!legend.distinct">
        <div class="scale" :style="{ background: legend.gradient }" />
        <div class="ends mono">
          <span data-test="legend-low">{{ short(legend.from) }}</span>
          <span v-if="legend.from !== legend.to" class="faint">{{ short((legend.from + legend.to) / 2) }}</span>
          <span data-test="legend-high">{{ short(legend.to) }}</span>
        </div>
        <div v-if="legend.low === legend.high" class="faint">the same everywhere</div>
        <div v-else-if="view.range || view.scale === 'signed'" class="faint fixed">
          values from {{ short(legend.low) }} to {{ short(legend.high) }}
          <ElButton v-if="view.range" text data-test="real-range" @click="view.range = null">real range</ElButton>
        </div>
      </template>
      <div v-else class="faint">
        another tint for each whole number, {{ short(legend.low) }} to {{ short(legend.high) }}
      </div>
    </template>
    <template v-else-if="legend.form === 'flag'">
      <div class="row">
        <i :style="{ background: legend.yes }" />in it: {{ plural(legend.members) }} ({{
          percent(legend.members, legend.total)
        }})
      </div>
      <div class="row"><i :style="{ background: legend.no }" />not: {{ plural(legend.total - legend.members) }}</div>
    </template>
    <template v-else-if="legend.form === 'words'">
      <div v-for="word in legend.words.slice(0, 8)" :key="word.text" class="row">
        <i :style="{ background: word.color }" />{{ word.text || '(empty)' }}
      </div>
      <div v-if="legend.words.length > 8" class="faint">and {{ legend.words.length - 8 }} more</div>
    </template>
    <template v-else-if="legend.form === 'groups'">
      <div v-for="group in legend.rows" :key="group.name" class="row" :data-test="`group-${group.name}`">
        <i :style="{ background: group.color }" /><b class="mono">{{ group.name }}</b> {{ count(group.members) }} ({{
          percent(group.members, legend.total)
        }})
      </div>
      <div class="row"><i :style="{ background: legend.none }" />in none; in several: their mean</div>
      <div v-if="legend.leftOut" class="faint">{{ legend.leftOut }} more groups are not shown</div>
    </template>
    <template v-else-if="legend.form === 'checker'">
      <div class="faint">
        8 squares to 1; u {{ short(legend.low[0]!) }} to {{ short(legend.high[0]!) }}, v {{ short(legend.low[1]!) }} to
        {{ short(legend.high[1]!) }}
      </div>
      <div class="row"><i class="u" />dark squares warmer along u</div>
      <div class="row"><i class="v" />light squares bluer along v</div>
    </template>
    <div v-else-if="legend.form === 'material'" class="faint">
      fired clay with its grain; a hue for each of {{ count(legend.pieces) }}
      {{ legend.pieces === 1 ? 'piece' : 'pieces' }}
    </div>
    <div v-else class="faint">colours as they are, lightly shaded</div>
  </div>
</template>

<style scoped>
.legend {
  min-width: 210px;
  max-width: 270px;
  padding: 7px 10px;
}
.title {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 5px;
}
.scales {
  width: 96px;
  margin-left: auto;
}
.bars {
  position: relative;
  display: flex;
  align-items: flex-end;
  height: 30px;
  margin-top: 5px;
  touch-action: none;
}
.bars i {
  flex: 1;
  width: auto;
  border-radius: 0;
  background: var(--wire);
}
.end {
  position: absolute;
  top: 0;
  bottom: -13px;
  width: 7px;
  margin-left: -3.5px;
  border: 1px solid var(--sheet);
  border-radius: 3px;
  background: var(--accent);
  cursor: ew-resize;
}
.scale {
  height: 10px;
  margin: 2px 0 3px;
  border-radius: 2px;
}
.ends {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
.fixed .el-button {
  min-height: 20px;
  padding: 0 4px;
  font-size: 12px;
  color: var(--accent);
}
.u {
  background: linear-gradient(to right, #4d5766, #944d33);
}
.v {
  background: linear-gradient(to right, #ede6d4, #a8d6db);
}
.row {
  display: flex;
  align-items: center;
  gap: 7px;
}
i {
  width: 12px;
  height: 12px;
  border-radius: 2px;
}
</style>
