<script setup lang="ts">
/** What is looked at beside another card's result, or its own before an edit. */
import Choice from '../../../shared/controls/Choice.vue'
import { ElButton, ElCollapse, ElCollapseItem } from 'element-plus'
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
const choices = computed(() => [
  { title: 'another card', entries: others.value.map(([id]) => ({ value: id, label: titleOf(id) })) },
  ...(moments.value.length
    ? [{ title: 'itself, earlier', entries: moments.value.map((one) => ({ value: one.key, label: one.label })) }]
    : []),
])
</script>

<template>
  <div class="with">
    with
    <Choice
      class="grow"
      :value="other || undefined"
      :entries="other ? [{ value: '', label: 'nothing' }] : []"
      :groups="choices"
      hint="choose a card or a moment"
      label="Compare with"
      data-test="against"
      @open="readMoments"
      @choose="other = $event"
    />
  </div>
  <div class="forms" role="radiogroup" aria-label="How it is seen">
    <ElButton
      v-for="form in FORMS"
      :key="form.name"
      text
      role="radio"
      :aria-checked="view.form === form.name"
      :title="form.help"
      :data-test="`form-${form.name}`"
      @click="view.form = form.name"
    >
      {{ form.name }}
    </ElButton>
  </div>
  <ElCollapse v-if="difference" :model-value="view.form === 'colours' ? ['what'] : []">
    <ElCollapseItem title="What differs" name="what">
      <dl class="counts">
        <template v-for="([now, by], kind) in difference.counts" :key="kind">
          <dt>{{ kind }}</dt>
          <dd class="mono">{{ count(now) }}</dd>
          <dd class="mono">{{ by ? change(by) : 'same' }}</dd>
        </template>
      </dl>
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
    </ElCollapseItem>
  </ElCollapse>
  <p v-else-if="isChosen" class="faint" role="status">Comparing …</p>
  <p v-else class="faint">
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
.forms .el-button {
  flex: 1;
  justify-content: center;
  min-height: 26px;
}
.grow {
  flex: 1;
}
.counts {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 2px 14px;
  margin: 5px 0;
}
dd {
  margin: 0;
  text-align: right;
}
</style>
