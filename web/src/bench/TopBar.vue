<script setup lang="ts">
/** The top line: where one is, whether all is saved, undo, and the way in and out for meshes. */
import { ElDropdown, ElDropdownItem, ElDropdownMenu, ElMessageBox } from 'element-plus'
import { computed } from 'vue'
import AccountMenu from '../people/AccountMenu.vue'
import { useGraph } from '../stores/useGraph'
import { useCatalogue } from '../stores/useCatalogue'
import { useTheme } from '../stores/useTheme'
import { useProject } from '../stores/useProject'

const emit = defineEmits<{ find: []; shapes: []; catalogue: [] }>()
const graph = useGraph()
const project = useProject()
const { catalogue } = useCatalogue()
const { theme, toggle } = useTheme()

const exports = computed(() => {
  const node = graph.document.value.looking_at
  const id = graph.state.value?.id
  if (!node || !id) return []
  return Object.entries(catalogue.formats).flatMap(([ending, format]) => {
    const encodings = format.options.encoding ?? ['']
    return encodings.map((encoding) => ({
      title: `${format.name}${encoding ? `, ${encoding}` : ''}`,
      keeps: `keeps ${format.keeps}`,
      key: `${ending}-${encoding}`,
      href: `/api/graphs/${id}/export?node=${encodeURIComponent(node)}&format=${ending}&encoding=${encoding}&level=${encodeURIComponent(graph.path.value.join('/'))}`,
    }))
  })
})

const NEW = '+'
async function ask(title: string): Promise<string> {
  const answer = await ElMessageBox.prompt('Its title:', title, {
    inputPattern: /\S/,
    inputErrorMessage: 'Give it a title.',
    confirmButtonText: 'Make',
    cancelButtonText: 'Cancel',
  }).catch(() => null)
  return ((answer as { value?: string } | null)?.value ?? '').trim()
}

async function chooseProject(event: Event) {
  const select = event.target as HTMLSelectElement
  const chosen = select.value
  select.value = project.project.value?.id ?? ''
  if (chosen !== NEW) return project.switchProject(chosen)
  const title = await ask('New project')
  if (title) await project.addProject(title)
}

async function chooseGraph(event: Event) {
  const select = event.target as HTMLSelectElement
  const chosen = select.value
  select.value = graph.state.value?.id ?? ''
  if (chosen !== NEW) return project.openGraph(chosen)
  const title = await ask('New graph')
  if (title) await project.addGraph(title)
}
</script>

<template>
  <header class="top">
    <b class="mark"><img src="/icon.svg" alt="" width="20" height="20" />Reticula</b>
    <select
      class="text"
      :value="project.project.value?.id"
      aria-label="Project"
      data-test="project"
      @change="chooseProject"
    >
      <option v-for="entry in project.projects.value" :key="entry.id" :value="entry.id">{{ entry.title }}</option>
      <option :value="NEW">New project…</option>
    </select>
    <select class="text" :value="graph.state.value?.id" aria-label="Graph" data-test="graph" @change="chooseGraph">
      <option v-for="entry in project.graphs.value" :key="entry.id" :value="entry.id">
        {{ entry.id === graph.state.value?.id ? graph.root.value.title || entry.title : entry.title }}
      </option>
      <option :value="NEW">New graph…</option>
    </select>
    <span
      class="save"
      :class="{ bad: graph.saveState.value !== 'saved' && graph.saveState.value !== 'saving' }"
      role="status"
      data-test="save-state"
      >{{ graph.saveState.value }}</span
    >
    <span v-if="graph.trouble.value" class="trouble" role="alert" :title="graph.trouble.value">{{
      graph.trouble.value
    }}</span>
    <span class="gap" />
    <button
      class="plain"
      :disabled="graph.undoLabel.value === null || graph.lookOnly.value"
      :title="graph.undoLabel.value === null ? 'Nothing to undo' : `Undo: ${graph.undoLabel.value} (Ctrl+Z)`"
      data-test="undo"
      @click="graph.undo()"
    >
      Undo
    </button>
    <button
      class="plain"
      :disabled="graph.redoLabel.value === null || graph.lookOnly.value"
      :title="graph.redoLabel.value === null ? 'Nothing to redo' : `Redo: ${graph.redoLabel.value} (Ctrl+Shift+Z)`"
      data-test="redo"
      @click="graph.redo()"
    >
      Redo
    </button>
    <button class="plain boxed" data-test="open-finder" title="Find an operator or an action" @click="emit('find')">
      Find <kbd>/</kbd>
    </button>
    <button
      class="plain boxed"
      data-test="open-catalogue"
      title="All operators, built in and published, and the depot"
      @click="emit('catalogue')"
    >
      Catalogue
    </button>
    <button class="plain boxed" data-test="open-shapes" @click="emit('shapes')">
      Shapes <span class="faint">{{ project.shapes.value.length }}</span>
    </button>
    <ElDropdown trigger="click">
      <button class="plain boxed" data-test="export" :disabled="!exports.length">Download</button>
      <template #dropdown>
        <ElDropdownMenu>
          <ElDropdownItem v-for="entry in exports" :key="entry.key">
            <a class="export" :href="entry.href" download :data-test="`export-${entry.key}`"
              ><b>{{ entry.title }}</b> <span class="faint">{{ entry.keeps }}</span></a
            >
          </ElDropdownItem>
        </ElDropdownMenu>
      </template>
    </ElDropdown>
    <button
      class="plain boxed"
      :title="`Change to ${theme === 'day' ? 'night' : 'day'}`"
      data-test="theme"
      @click="toggle"
    >
      {{ theme === 'day' ? 'Night' : 'Day' }}
    </button>
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
select {
  max-width: 190px;
}
.gap {
  flex: 1;
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
.export {
  color: inherit;
  text-decoration: none;
}
</style>
