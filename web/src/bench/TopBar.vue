<script setup lang="ts">
/** The top line: where one is, whether all is saved, undo, and the way in and out for meshes. */
import { useKeys } from '../stores/useKeys'
import Choice from '../shared/controls/Choice.vue'
import { ElButton, ElMessage } from 'element-plus'
import { computed, onMounted, watch } from 'vue'
import AccountMenu from '../people/AccountMenu.vue'
import { askName } from '../shared/askName'
import { useGraph } from '../stores/useGraph'
import { useCompany } from '../stores/insight/useCompany'
import { useHistory } from '../stores/insight/useHistory'
import { useInspection } from '../stores/useInspection'
import { splitFeed } from '../model/document'
import { whenOf } from '../model/history'
import { useTheme } from '../stores/useTheme'
import { useProject } from '../stores/useProject'

const { hint, keyOf } = useKeys()

const emit = defineEmits<{ find: []; shapes: []; catalogue: []; demos: []; download: [] }>()
const graph = useGraph()
const history = useHistory()
const company = useCompany()
const { panel, toggle: togglePanel } = useInspection()
const project = useProject()
const { theme, toggle } = useTheme()

/** The moment that is looked at, and what it is called. */
const pastMoment = computed(() =>
  history.history.value.moments.find((one) => one.revision === graph.past.value?.revision),
)
const pastTitle = computed(() => history.title(pastMoment.value))
const pastWhen = computed(() =>
  pastMoment.value ? `at ${whenOf(pastMoment.value.at, new Date())}` : 'in the beginning',
)
const pastWords = computed(() => `The graph after ‘${pastTitle.value}’; nothing can be changed here.`)

onMounted(company.join)
watch(company.notices, (told) => {
  for (const message of told) ElMessage({ type: 'info', message, duration: 8000 })
})
const titleOf = (feed: string) => graph.document.value.nodes[splitFeed(feed).from]?.title || splitFeed(feed).from

const NEW = '+'
const DEMOS = '*'
const projects = computed(() => [
  ...project.projects.value.map((entry) => ({ value: entry.id, label: entry.title })),
  { value: NEW, label: 'New project…' },
])
const graphs = computed(() => [
  ...project.graphs.value.map((entry) => ({
    value: entry.id,
    label: entry.id === graph.state.value?.id ? graph.root.value.title || entry.title : entry.title,
  })),
  { value: NEW, label: 'New graph…' },
  { value: DEMOS, label: 'Demos…' },
])
const ask = (title: string) => askName(title, 'Make', { asked: 'Its title:' })

async function chooseProject(chosen: string) {
  if (chosen !== NEW) return project.switchProject(chosen)
  const title = await ask('New project')
  if (title) await project.addProject(title)
}

async function chooseGraph(chosen: string) {
  if (chosen === DEMOS) return emit('demos')
  if (chosen !== NEW) return project.openGraph(chosen)
  const title = await ask('New graph')
  if (title) await project.addGraph(title)
}
</script>

<template>
  <header class="top" data-help="looking.html">
    <b class="mark"><img src="/icon.svg" alt="" width="20" height="20" />Reticula</b>
    <Choice
      class="where"
      :value="project.project.value?.id"
      :entries="projects"
      label="Project"
      data-test="project"
      @choose="chooseProject"
    />
    <Choice
      class="where"
      :value="graph.state.value?.id"
      :entries="graphs"
      label="Graph"
      data-test="graph"
      @choose="chooseGraph"
    />
    <span
      v-if="!graph.past.value"
      class="save"
      :class="{ bad: graph.saveState.value !== 'saved' && graph.saveState.value !== 'saving' }"
      role="status"
      data-test="save-state"
      >{{ graph.saveState.value }}</span
    >
    <span v-if="graph.trouble.value" class="trouble" role="alert" :title="graph.trouble.value">{{
      graph.trouble.value
    }}</span>
    <span v-if="graph.past.value" class="past" role="status" :title="pastWords" data-test="past">
      as it was {{ pastWhen }}
      <ElButton type="primary" data-test="to-now" @click="graph.lookBack(null)">Return to now</ElButton>
      <ElButton
        v-if="!graph.lookOnly.value"
        title="Make the graph what it was then; undo takes that back"
        data-test="go-back"
        @click="history.goBack(graph.past.value.revision, pastTitle)"
        >Go back to it</ElButton
      >
    </span>
    <span v-if="company.people.value.length" class="people" data-test="people" aria-label="Who else is at this graph">
      <span
        v-for="one in company.people.value.slice(0, 4)"
        :key="one.page"
        class="person"
        :title="`${one.called} ${one.looking_at ? `looks at ‘${titleOf(one.looking_at)}’` : 'is here'}`"
        >{{ one.called }}</span
      >
      <span v-if="company.people.value.length > 4" class="faint">+{{ company.people.value.length - 4 }}</span>
    </span>
    <span class="gap" />
    <ElButton
      v-if="!graph.past.value"
      text
      :disabled="graph.undoLabel.value === null || graph.lookOnly.value"
      :title="graph.undoLabel.value === null ? 'Nothing to undo' : `Undo: ${graph.undoLabel.value}${hint('Undo')}`"
      data-test="undo"
      @click="graph.undo()"
    >
      Undo
    </ElButton>
    <ElButton
      v-if="!graph.past.value"
      text
      :disabled="graph.redoLabel.value === null || graph.lookOnly.value"
      :title="graph.redoLabel.value === null ? 'Nothing to redo' : `Redo: ${graph.redoLabel.value}${hint('Redo')}`"
      data-test="redo"
      @click="graph.redo()"
    >
      Redo
    </ElButton>
    <ElButton
      text
      :aria-pressed="panel === 'history'"
      :title="`Every edit; look at any moment${hint('History')}`"
      data-test="open-history"
      @click="togglePanel('history')"
    >
      History
    </ElButton>
    <ElButton data-test="open-finder" title="Find an operator or an action" @click="emit('find')">
      Find <kbd v-if="keyOf('Find')">{{ keyOf('Find') }}</kbd>
    </ElButton>
    <ElButton
      data-test="open-catalogue"
      title="All operators, built in and published, and the depot"
      @click="emit('catalogue')"
    >
      Catalogue
    </ElButton>
    <ElButton data-test="open-shapes" @click="emit('shapes')">
      Shapes <span class="faint">{{ project.shapes.value.length }}</span>
    </ElButton>
    <ElButton
      data-test="export"
      :disabled="!graph.document.value.looking_at"
      title="What is looked at, as a file"
      @click="emit('download')"
    >
      Download
    </ElButton>
    <ElButton :title="`Change to ${theme === 'day' ? 'night' : 'day'}`" data-test="theme" @click="toggle">
      {{ theme === 'day' ? 'Night' : 'Day' }}
    </ElButton>
    <AccountMenu />
  </header>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 7px;
  height: 44px;
  padding: 0 10px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
}
.mark {
  display: inline-flex;
  align-items: center;
  gap: 7px;
  margin-right: 6px;
  font-size: 16px;
}
.where {
  width: 168px;
  min-width: 90px;
}
.gap {
  flex: 1;
}
.people {
  display: flex;
  gap: 4px;
  min-width: 0;
  overflow: hidden;
}
.person {
  padding: 1px 8px;
  border-radius: 10px;
  background: var(--live-wash);
  color: var(--live-ink);
  font-size: 12.5px;
  white-space: nowrap;
}
.past {
  display: flex;
  gap: 6px;
  align-items: center;
  flex: none;
  padding: 2px 8px;
  border-radius: 5px;
  background: var(--warn-wash);
  color: var(--warn);
  font-size: 13px;
  white-space: nowrap;
}
.save {
  color: var(--faint-ink);
  font-size: 13px;
  white-space: nowrap;
}
.bad {
  color: var(--bad);
  font-weight: 600;
}
.trouble {
  min-width: 0;
  overflow: hidden;
  color: var(--bad);
  font-size: 13px;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
