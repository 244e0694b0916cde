<script setup lang="ts">
/** Who may do what in a project, and links for those who only look. */
import { ElAlert, ElButton, ElDialog, ElEmpty, ElInput, ElOption, ElSelect, ElTable, ElTableColumn } from 'element-plus'
import { onMounted, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { tell } from '../stores/useChanges'

const props = defineProps<{ project: Schemas['ProjectState'] }>()
const emit = defineEmits<{ close: [] }>()
type Role = Schemas['MemberRequest']['role']
const ROLES: { value: Role; label: string }[] = [
  { value: 'look', label: 'may look' },
  { value: 'edit', label: 'may edit' },
  { value: 'manage', label: 'may manage' },
]
const state = ref<Schemas['MembersState'] | null>(null)
const chosen = ref('')
const role = ref<Role>('edit')
const link = ref('')

async function load() {
  state.value = await api.members(props.project.id)
}
/** Do something and show how things are then. */
async function act(work: Promise<unknown>) {
  await work.catch(tell)
  await load().catch(tell)
}
async function add() {
  await act(api.setMember(props.project.id, chosen.value, role.value))
  chosen.value = ''
}
async function makeLink() {
  await act(
    api.makeLink(props.project.id).then((made) => {
      link.value = `${location.origin}/#link=${made.secret}`
    }),
  )
}
const copy = () => navigator.clipboard.writeText(link.value)
const moment = (text: string) => new Date(`${text}Z`).toLocaleString()
onMounted(() => load().catch(tell))
</script>

<template>
  <ElDialog
    :model-value="true"
    data-help="deploying.html"
    :title="`Share ‘${project.title}’`"
    width="min(620px, 94vw)"
    @close="emit('close')"
  >
    <h3>People</h3>
    <ElTable v-loading="!state" :data="state?.members ?? []" size="small" data-test="members">
      <template #empty
        ><ElEmpty :image-size="50" description="Only administrators see this project so far."
      /></template>
      <ElTableColumn prop="name" label="Name" />
      <ElTableColumn label="May" width="190">
        <template #default="{ row }">
          <ElSelect
            :model-value="row.role"
            size="small"
            :aria-label="`Role of ${row.name}`"
            @change="act(api.setMember(project.id, row.name, $event))"
          >
            <ElOption v-for="one in ROLES" :key="one.value" v-bind="one" />
          </ElSelect>
        </template>
      </ElTableColumn>
      <ElTableColumn width="110" align="right">
        <template #default="{ row }">
          <ElButton size="small" @click="act(api.dropMember(project.id, row.name))">Remove</ElButton>
        </template>
      </ElTableColumn>
    </ElTable>
    <div class="line">
      <ElSelect v-model="chosen" filterable placeholder="Somebody with an account" aria-label="Who" data-test="who">
        <ElOption v-for="name in state?.others ?? []" :key="name" :value="name" :label="name" />
      </ElSelect>
      <ElSelect v-model="role" class="role" aria-label="What they may do" data-test="role">
        <ElOption v-for="one in ROLES" :key="one.value" v-bind="one" />
      </ElSelect>
      <ElButton type="primary" :disabled="!chosen" data-test="add-member" @click="add">Add</ElButton>
    </div>
    <h3>Links for looking</h3>
    <p class="faint">Whoever has such a link sees this project, its results and its shapes, and changes nothing.</p>
    <ElAlert v-if="link" type="success" :closable="false" title="The link is shown this once; copy it now.">
      <div class="line">
        <ElInput :model-value="link" readonly aria-label="Link for looking" data-test="link" />
        <ElButton @click="copy">Copy</ElButton>
      </div>
    </ElAlert>
    <div v-for="one in state?.links ?? []" :key="one.id" class="line">
      <span class="grow">Link of {{ moment(one.created_at) }}</span>
      <ElButton size="small" @click="act(api.dropLink(project.id, one.id))">Take back</ElButton>
    </div>
    <ElButton data-test="make-link" @click="makeLink">Make a link</ElButton>
  </ElDialog>
</template>

<style scoped>
h3 {
  margin: 14px 0 6px;
}
h3:first-child {
  margin-top: 0;
}
.line {
  display: flex;
  align-items: center;
  gap: 8px;
  margin: 8px 0;
}
:deep(.el-alert__content) {
  flex: 1;
}
.role {
  flex: 0 0 150px;
}
.grow {
  flex: 1;
}
</style>
