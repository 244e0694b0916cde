<script setup lang="ts">
/** The view's controls: what is drawn, what is picked, and which attribute is shown as colour. */
import Slider from '../../shared/controls/Slider.vue'
import Choice from '../../shared/controls/Choice.vue'
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import type { Kind, Summary } from '../../api/results'
import { useSelection } from '../../stores/useSelection'
import { byValues, choiceOf, keyOf } from '../../model/values/colorChoice'
import { aboutType } from '../../stores/attributeTypes'
import { scaleFor } from '../color/scales'
import type { Entry } from '../../shared/controls/choices'
import { useTime } from '../../stores/useTime'
import { useView } from '../../stores/useView'

const props = defineProps<{ summary: Summary | null }>()
const view = useView()
const time = useTime()
const selection = useSelection()
const COLORED: Kind[] = ['point', 'edge', 'corner', 'face', 'instance']

/** Groups first, then attributes, then what every element has; vectors by component. */
const entries = computed(() => {
  const found: { title: string; entries: Entry[] }[] = []
  for (const kind of COLORED) {
    if (kind === 'instance' && !props.summary?.counts.instances) continue
    const own = [...(props.summary?.attributes[kind] ?? []), ...(props.summary?.placed[kind] ?? [])]
    const groups = own.filter((a) => a.type === 'flag').map((a) => entry(kind, a.name, ''))
    const values = own.filter((a) => a.type !== 'flag').flatMap((a) => parts(kind, a.name, a.type))
    const built = (props.summary?.built_in[kind] ?? [])
      .filter((name) => !own.some((a) => a.name === name) && !['count', 'position'].includes(name))
      .flatMap((name) => parts(kind, name, name === 'normal' ? 'vec3' : 'number'))
    const all = [...groups, ...values, ...built]
    if (all.length) found.push({ title: `each ${kind}`, entries: all })
  }
  return found
})

function parts(kind: Kind, name: string, type: string): Entry[] {
  const letters = aboutType(type).parts
  const listed = (letters ? [...letters, 'length'] : ['']).map((part) => entry(kind, name, part))
  return name === 'color' && type !== 'number'
    ? [{ value: keyOf(byValues(kind, name)), label: 'color (as it is)' }, ...listed]
    : listed
}

function entry(kind: Kind, name: string, part: string): Entry {
  return {
    value: keyOf(byValues(kind, name, part)),
    label: part === 'length' ? `${name} (length)` : part ? `${name}.${part}` : name,
  }
}

/** Vectors that can be drawn as strokes: normals first. */
const vectors = computed(() =>
  (['point', 'face'] as const).flatMap((kind) => [
    { value: `${kind}|normal`, label: `normals, ${kind}s` },
    ...(props.summary?.attributes[kind] ?? [])
      .filter((a) => a.type === 'vec3' && !['position', 'normal', 'color'].includes(a.name))
      .map((a) => ({ value: `${kind}|${a.name}`, label: `${a.name}, ${kind}s` })),
  ]),
)
/** Numbers of points that can say how large they are. */
const sizes = computed(() =>
  (props.summary?.attributes.point ?? []).filter((a) => a.type === 'number').map((a) => a.name),
)
const labelled = computed(() =>
  (props.summary?.attributes[selection.kind.value] ?? [])
    .filter((a) => a.type === 'flag' || aboutType(a.type).measured)
    .map((a) => a.name),
)

const haveUv = computed(() =>
  (['corner', 'point'] as const).some((kind) => props.summary?.attributes[kind]?.some((a) => a.name === 'uv')),
)

/** Ways to see all of it at once. */
const wholes = computed(() => [
  { value: keyOf({ how: 'material', kind: 'face', name: '', part: '' }), label: 'material' },
  { value: keyOf(byValues('face', 'piece')), label: 'pieces' },
  ...(['face', 'point', 'edge'] as const)
    .filter((kind) => (props.summary?.attributes[kind] ?? []).some((a) => a.type === 'flag'))
    .map((kind) => ({ value: keyOf({ how: 'groups', kind, name: '', part: '' }), label: `all groups of ${kind}s` })),
  ...(haveUv.value
    ? [{ value: keyOf({ how: 'checker', kind: 'corner', name: '', part: '' }), label: 'uv checker' }]
    : []),
])

const color = computed({
  get: () => keyOf(view.color),
  set: (key: string) => {
    view.chosen = true
    view.color = choiceOf(key)
    view.range = null
    view.scale = scaleFor(view.color?.name ?? '', view.scale)
  },
})
const missing = computed(
  () =>
    view.color &&
    ![...wholes.value, ...entries.value.flatMap((group) => group.entries)].some((entry) => entry.value === color.value),
)
/** Plain, and what was chosen where it is not here. */
const plain = computed<Entry[]>(() => [
  { value: '', label: 'plain clay' },
  ...(missing.value ? [{ value: color.value, label: `${view.color?.name || 'uv checker'} (not here)` }] : []),
])

const OFF: Entry = { value: '', label: 'off' }
const choices = computed(() => [
  {
    what: 'points',
    label: 'Points',
    test: 'points',
    width: 'slim',
    title: 'Points as dots, or as large as a value says, in m',
    value: view.points,
    entries: [
      OFF,
      { value: 'dots', label: 'dots' },
      ...(view.points && view.points !== 'dots' && !sizes.value.includes(view.points)
        ? [{ value: view.points, label: `${view.points} (not here)` }]
        : []),
      ...sizes.value.map((name) => ({ value: name, label: `radius: ${name}` })),
    ],
    choose: (value: string) => (view.points = value),
  },
  {
    what: 'edges',
    label: 'Edges',
    test: 'edges',
    width: 'short',
    title: 'Edges: none, all, or those that are open borders, creases or crowded',
    value: view.edges,
    entries: [
      { value: 'off', label: 'off' },
      { value: 'all', label: 'all' },
      { value: 'kinds', label: 'by kind' },
    ],
    choose: (value: string) => (view.edges = value as typeof view.edges),
  },
  {
    what: 'strokes',
    label: 'Strokes',
    test: 'strokes',
    width: 'short',
    title: 'Normals or another vector, drawn at the elements',
    value: view.strokes,
    entries: [OFF, ...vectors.value],
    choose: (value: string) => (view.strokes = value),
  },
  {
    what: 'labels',
    label: 'Labels',
    test: 'labels-of',
    width: 'short',
    title: `What is written at each ${selection.kind.value}`,
    value: view.labels,
    entries: [
      OFF,
      { value: 'index', label: 'numbers' },
      ...labelled.value.map((name) => ({ value: name, label: name })),
    ],
    choose: (value: string) => (view.labels = value),
  },
])
</script>

<template>
  <div class="bar" role="toolbar" aria-label="View">
    <div class="set" aria-label="Draw">
      <ElButton text :aria-pressed="view.faces" title="Draw faces" @click="view.faces = !view.faces"> faces </ElButton>
      <ElButton
        text
        :aria-pressed="view.smooth"
        title="Shade smoothly across faces, or each face flat"
        @click="view.smooth = !view.smooth"
      >
        smooth
      </ElButton>
      <ElButton
        v-if="haveUv || view.flat"
        text
        :aria-pressed="view.flat"
        title="Lay the faces out by their uv"
        data-test="flat"
        @click="view.flat = !view.flat"
      >
        uv sheet
      </ElButton>
    </div>
    <div v-for="choice in choices" :key="choice.what" class="set">
      <span class="faint">{{ choice.what }}</span>
      <Choice
        :class="choice.width"
        :value="choice.value"
        :entries="choice.entries"
        :label="choice.label"
        :data-test="choice.test"
        :title="choice.title"
        @choose="choice.choose"
      />
      <Slider
        v-if="choice.what === 'strokes' && view.strokes"
        class="length"
        :value="view.strokeLength"
        :low="0.005"
        :high="0.3"
        :step="0.005"
        label="Length of strokes"
        title="Length of the longest stroke"
        @turn="view.strokeLength = $event"
      />
    </div>
    <div class="set">
      <span class="faint">colour</span>
      <Choice
        class="wide"
        :value="color"
        :entries="plain"
        :groups="[{ title: 'all of it', entries: wholes }, ...entries]"
        label="Colour by"
        data-test="color-by"
        @choose="color = $event"
      />
    </div>
    <ElButton
      text
      :aria-pressed="time.visible.value"
      title="The frames of the graph, below the view"
      data-test="show-time"
      @click="time.shown.value = !time.visible.value"
      >time</ElButton
    >
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 7px;
  padding: 4px 6px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
  font-size: 13px;
}
.set {
  display: inline-flex;
  align-items: center;
  gap: 3px;
}
.bar .el-button {
  padding: 2px 6px;
}
.wide {
  width: 116px;
}
.short {
  width: 74px;
}
.length {
  flex: 0 0 52px;
}
.slim {
  width: 64px;
}
</style>
