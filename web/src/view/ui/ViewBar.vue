<script setup lang="ts">
/** The view's controls: what is drawn, what is picked, and which attribute is shown as colour. */
import { computed } from 'vue'
import type { Kind, Summary } from '../../api/results'
import { useSelection } from '../../stores/useSelection'
import { byValues, choiceOf, keyOf } from '../../model/values/colorChoice'
import { aboutType } from '../../stores/attributeTypes'
import { scaleFor } from '../color/scales'
import { useView } from '../../stores/useView'

const props = defineProps<{ summary: Summary | null }>()
const view = useView()
const selection = useSelection()
const COLORED: Kind[] = ['point', 'edge', 'corner', 'face']

interface Entry {
  key: string
  label: string
}

/** Groups first, then attributes, then what every element has; vectors by component. */
const entries = computed(() => {
  const found: { title: string; entries: Entry[] }[] = []
  for (const kind of COLORED) {
    const own = props.summary?.attributes[kind] ?? []
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
    ? [{ key: keyOf(byValues(kind, name)), label: 'color (as it is)' }, ...listed]
    : listed
}

function entry(kind: Kind, name: string, part: string): Entry {
  return {
    key: keyOf(byValues(kind, name, part)),
    label: part === 'length' ? `${name} (length)` : part ? `${name}.${part}` : name,
  }
}

/** Vectors that can be drawn as strokes: normals first. */
const vectors = computed(() =>
  (['point', 'face'] as const).flatMap((kind) => [
    { key: `${kind}|normal`, label: `normals, ${kind}s` },
    ...(props.summary?.attributes[kind] ?? [])
      .filter((a) => a.type === 'vec3' && !['position', 'normal', 'color'].includes(a.name))
      .map((a) => ({ key: `${kind}|${a.name}`, label: `${a.name}, ${kind}s` })),
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
  { key: keyOf({ how: 'material', kind: 'face', name: '', part: '' }), label: 'material' },
  { key: keyOf(byValues('face', 'piece')), label: 'pieces' },
  ...(['face', 'point', 'edge'] as const)
    .filter((kind) => (props.summary?.attributes[kind] ?? []).some((a) => a.type === 'flag'))
    .map((kind) => ({ key: keyOf({ how: 'groups', kind, name: '', part: '' }), label: `all groups of ${kind}s` })),
  ...(haveUv.value
    ? [{ key: keyOf({ how: 'checker', kind: 'corner', name: '', part: '' }), label: 'uv checker' }]
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
    ![...wholes.value, ...entries.value.flatMap((group) => group.entries)].some((entry) => entry.key === color.value),
)
</script>

<template>
  <div class="bar" role="toolbar" aria-label="View">
    <div class="set" aria-label="Draw">
      <button class="plain" :aria-pressed="view.faces" title="Draw faces" @click="view.faces = !view.faces">
        faces
      </button>
      <button
        class="plain"
        :aria-pressed="view.smooth"
        title="Shade smoothly across faces, or each face flat"
        @click="view.smooth = !view.smooth"
      >
        smooth
      </button>
      <button
        v-if="haveUv || view.flat"
        class="plain"
        :aria-pressed="view.flat"
        title="Lay the faces out by their uv"
        data-test="flat"
        @click="view.flat = !view.flat"
      >
        uv sheet
      </button>
    </div>
    <label class="set">
      <span class="faint">points</span>
      <select
        v-model="view.points"
        class="text slim"
        aria-label="Points"
        data-test="points"
        title="Points as dots, or as large as a value says, in m"
      >
        <option value="">off</option>
        <option value="dots">dots</option>
        <option v-if="view.points && view.points !== 'dots' && !sizes.includes(view.points)" :value="view.points">
          {{ view.points }} (not here)
        </option>
        <option v-for="name in sizes" :key="name" :value="name">radius: {{ name }}</option>
      </select>
    </label>
    <label class="set">
      <span class="faint">edges</span>
      <select v-model="view.edges" class="text short" aria-label="Edges" data-test="edges">
        <option value="off">off</option>
        <option value="all">all</option>
        <option value="kinds">by kind</option>
      </select>
    </label>
    <label class="set">
      <span class="faint">strokes</span>
      <select
        v-model="view.strokes"
        class="text short"
        aria-label="Strokes"
        data-test="strokes"
        title="Normals or another vector, drawn at the elements"
      >
        <option value="">off</option>
        <option v-for="entry in vectors" :key="entry.key" :value="entry.key">{{ entry.label }}</option>
      </select>
      <input
        v-if="view.strokes"
        v-model.number="view.strokeLength"
        class="slim"
        type="range"
        min="0.005"
        max="0.3"
        step="0.005"
        aria-label="Length of strokes"
        title="Length of the longest stroke"
      />
    </label>
    <label class="set">
      <span class="faint">labels</span>
      <select
        v-model="view.labels"
        class="text short"
        aria-label="Labels"
        data-test="labels-of"
        :title="`What is written at each ${selection.kind.value}`"
      >
        <option value="">off</option>
        <option value="index">numbers</option>
        <option v-for="name in labelled" :key="name" :value="name">{{ name }}</option>
      </select>
    </label>
    <label class="set">
      <span class="faint">colour</span>
      <select v-model="color" class="text wide" aria-label="Colour by" data-test="color-by">
        <option value="">plain clay</option>
        <option v-if="missing" :value="color">{{ view.color?.name || 'uv checker' }} (not here)</option>
        <optgroup label="the whole">
          <option v-for="item in wholes" :key="item.key" :value="item.key">{{ item.label }}</option>
        </optgroup>
        <optgroup v-for="group in entries" :key="group.title" :label="group.title">
          <option v-for="item in group.entries" :key="item.key" :value="item.key">{{ item.label }}</option>
        </optgroup>
      </select>
    </label>
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
.bar .plain {
  padding: 2px 6px;
}
.bar select {
  padding: 3px 4px;
}
.wide {
  width: 116px;
}
.short {
  width: 60px;
}
.slim {
  width: 52px;
  accent-color: var(--accent);
}
</style>
