<script setup lang="ts">
/** What is looked at beside another card's result, or its own before an edit. */
import { computed, onMounted, shallowRef } from 'vue'
import { api } from '../../../api/client'
import { splitFeed } from '../../../model/document'
import { momentsOf } from '../../../model/revisions'
import { change, count, short } from '../../../shared/numbers'
import { useCatalogue } from '../../../stores/useCatalogue'
import { useEvaluation } from '../../../stores/useEvaluation'
import { useGraph } from '../../../stores/useGraph'
import { useInspection } from '../../../stores/useInspection'
import { useView } from '../../../stores/useView'
import { useTitles } from '../useTitles'

const FORMS = [
  { name: 'colours', help: 'How far each point is from the other one, as colours' },
  { name: 'beside', help: 'Two pictures beside each other, turned together' },
  { name: 'across', help: 'One picture, with a line that is dragged across' },
] as const
const view = useView()
const graph = useGraph()
const { difference, other, isChosen } = useInspection()
const { shownNode } = useEvaluation()
const { operatorOf } = useCatalogue()
const titleOf = useTitles()
const others = computed(() =>
  Object.entries(graph.document.value.nodes).filter(
    ([id, node]) => id !== splitFeed(shownNode.value ?? '').from && !operatorOf(node)?.makes_value,
  ),
)

/** The moments before the last edits, read anew each time they are offered. */
const moments = shallowRef<ReturnType<typeof momentsOf>>([])
async function readMoments() {
  const id = graph.state.value?.id
  const log = id ? await api.edits(id).catch(() => null) : null
  moments.value = momentsOf(log?.edits ?? [])
}
onMounted(readMoments)
</script>

<template>
  <label class="with"
    >with
    <select v-model="other" class="text" aria-label="Compare with" data-test="against" @focus="readMoments">
      <option value="">choose a card or a moment</option>
      <optgroup label="another card">
        <option v-for="[id] in others" :key="id" :value="id">{{ titleOf(id) }}</option>
      </optgroup>
      <optgroup v-if="moments.length" label="itself, earlier">
        <option v-for="moment in moments" :key="moment.key" :value="moment.key">{{ moment.label }}</option>
      </optgroup>
    </select>
  </label>
  <div class="forms" role="radiogroup" aria-label="How it is seen">
    <button
      v-for="form in FORMS"
      :key="form.name"
      class="plain"
      role="radio"
      :aria-checked="view.form === form.name"
      :title="form.help"
      :data-test="`form-${form.name}`"
      @click="view.form = form.name"
    >
      {{ form.name }}
    </button>
  </div>
  <component :is="view.form === 'colours' ? 'div' : 'details'" v-if="difference">
    <summary v-if="view.form !== 'colours'">what differs</summary>
    <table>
      <tbody>
        <tr v-for="([now, by], kind) in difference.counts" :key="kind">
          <td>{{ kind }}</td>
          <td class="mono">{{ count(now) }}</td>
          <td class="mono">{{ by ? change(by) : 'same' }}</td>
        </tr>
      </tbody>
    </table>
    <p data-test="farthest">
      {{
        difference.moved
          ? `${count(difference.moved)} points are off it, ${short(difference.farthest)} m at most${view.form === 'colours' ? '; the colours show how far' : ''}.`
          : 'All points lie on it.'
      }}
    </p>
    <p v-for="entry in difference.attributes" :key="entry.kind + entry.name" class="faint">
      {{ entry.kind }} <b class="mono">{{ entry.name }}</b>: {{ entry.what }}
    </p>
    <p v-if="!difference.attributes.length" class="faint">All attributes are the same.</p>
  </component>
  <p v-else-if="!isChosen" class="faint">
    Another card’s result, or this one before one of the last edits: as a faint wire with the distance as colours,
    beside this one, or across a line.
  </p>
</template>

<style scoped>
.with {
  display: flex;
  align-items: center;
  gap: 6px;
}
.forms {
  display: flex;
  gap: 3px;
  margin: 5px 0;
}
.forms .plain {
  flex: 1;
  justify-content: center;
  min-height: 26px;
}
.with select {
  min-width: 0;
  flex: 1;
}
table {
  width: 100%;
  margin: 5px 0;
  border-collapse: collapse;
}
td {
  padding: 1px 0;
  border-bottom: 1px solid var(--line);
}
td + td {
  text-align: right;
}
</style>
