<script setup lang="ts">
/** The view's controls: what is drawn, what is picked, and which attribute is shown as colour. */
import { computed } from 'vue'
import type { Kind, Summary } from '../api/looks'
import { useSelection } from '../bench/useSelection'
import { useView } from './useView'

const props = defineProps<{ summary: Summary | null }>()
const emit = defineEmits<{ frame: [chosen: boolean] }>()
const view = useView()
const selection = useSelection()
const PARTS: Record<string, string[]> = { vec2: ['x', 'y', 'length'], vec3: ['x', 'y', 'z', 'length'], vec4: ['x', 'y', 'z', 'w', 'length'] }
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
  const listed = (PARTS[type] ?? ['']).map((part) => entry(kind, name, part))
  return name === 'color' && type !== 'number' ? [{ key: `${kind}|${name}|`, label: 'color (as it is)' }, ...listed] : listed
}

function entry(kind: Kind, name: string, part: string): Entry {
  return { key: `${kind}|${name}|${part}`, label: part === 'length' ? `${name} (length)` : part ? `${name}.${part}` : name }
}

/** Vectors that can be drawn as strokes: normals first. */
const vectors = computed(() =>
  (['point', 'face'] as const).flatMap((kind) => [
    { key: `${kind}|normal`, label: `normals, ${kind}s` },
    ...(props.summary?.attributes[kind] ?? []).filter((a) => a.type === 'vec3' && !['position', 'normal', 'color'].includes(a.name)).map((a) => ({ key: `${kind}|${a.name}`, label: `${a.name}, ${kind}s` })),
  ]),
)
const labelled = computed(() => (props.summary?.attributes[selection.kind.value] ?? []).filter((a) => !['text', 'mat3', 'mat4'].includes(a.type) && !a.type.includes('list')).map((a) => a.name))

const color = computed({
  get: () => (view.color ? `${view.color.kind}|${view.color.name}|${view.color.part}` : ''),
  set: (key: string) => {
    view.chosen = true
    const [kind, name, part] = key.split('|') as [Kind, string, string]
    view.color = key ? { kind, name, part } : null
  },
})
const missing = computed(() => view.color && !entries.value.some((g) => g.entries.some((e) => e.key === color.value)))
</script>

<template>
  <div class="bar" role="toolbar" aria-label="View">
    <div class="set" aria-label="Draw">
      <button class="plain" :aria-pressed="view.faces" title="Draw faces" @click="view.faces = !view.faces">faces</button>
      <button class="plain" :aria-pressed="view.wire" title="Draw edges" data-test="wire" @click="view.wire = !view.wire">edges</button>
      <button class="plain" :aria-pressed="view.points" title="Draw points" @click="view.points = !view.points">points</button>
      <button class="plain" :aria-pressed="view.smooth" title="Shade smoothly across faces, or each face flat" @click="view.smooth = !view.smooth">smooth</button>
    </div>
    <label class="set">
      <span class="faint">strokes</span>
      <select v-model="view.strokes" class="text short" aria-label="Strokes" data-test="strokes" title="Normals or another vector, drawn at the elements">
        <option value="">off</option>
        <option v-for="entry in vectors" :key="entry.key" :value="entry.key">{{ entry.label }}</option>
      </select>
      <input v-if="view.strokes" v-model.number="view.strokeLength" class="slim" type="range" min="0.005" max="0.3" step="0.005" aria-label="Length of strokes" title="Length of the longest stroke" />
    </label>
    <label class="set">
      <span class="faint">labels</span>
      <select v-model="view.labels" class="text short" aria-label="Labels" data-test="labels-of" :title="`What is written at each ${selection.kind.value}`">
        <option value="">off</option>
        <option value="index">numbers</option>
        <option v-for="name in labelled" :key="name" :value="name">{{ name }}</option>
      </select>
    </label>
    <label class="set">
      <span class="faint">colour</span>
      <select v-model="color" class="text wide" aria-label="Colour by" data-test="color-by">
        <option value="">plain clay</option>
        <option v-if="missing" :value="color">{{ view.color?.name }} (not here)</option>
        <optgroup v-for="group in entries" :key="group.title" :label="group.title">
          <option v-for="item in group.entries" :key="item.key" :value="item.key">{{ item.label }}</option>
        </optgroup>
      </select>
    </label>
    <button class="plain boxed" title="Show the whole shape (F); the selection with Shift+F" data-test="frame" @click="emit('frame', $event.shiftKey)">Frame</button>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 9px;
  padding: 4px 8px;
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
  padding: 2px 7px;
}
.wide {
  width: 116px;
}
.short {
  width: 74px;
}
.slim {
  width: 56px;
  accent-color: var(--accent);
}
</style>
