<script setup lang="ts">
/** One's own password, and the tokens of one's programs. */
import {
  ElAlert,
  ElButton,
  ElDialog,
  ElForm,
  ElFormItem,
  ElInput,
  ElMessage,
  ElTable,
  ElTableColumn,
} from 'element-plus'
import { onMounted, reactive, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { tell } from '../stores/useChanges'
import { useSession } from '../stores/useSession'

const { session } = useSession()
const emit = defineEmits<{ close: [] }>()
const LEAST = 10
const words = reactive({ old: '', new: '' })
const tokens = ref<Schemas['TokenEntry'][]>([])
const title = ref('')
const secret = ref('')

async function load() {
  tokens.value = (await api.tokens()).tokens
}
async function change() {
  try {
    await api.changePassword(words.old, words.new)
    Object.assign(words, { old: '', new: '' })
    ElMessage.success('The password is changed. Sign in with it.')
  } catch (error) {
    tell(error)
  }
}
async function make() {
  try {
    secret.value = (await api.makeToken(title.value.trim())).secret
    title.value = ''
    await load()
  } catch (error) {
    tell(error)
  }
}
async function drop(id: string) {
  await api.dropToken(id).catch(tell)
  await load().catch(tell)
}
onMounted(() => load().catch(tell))
</script>

<template>
  <ElDialog
    :model-value="true"
    data-help="deploying.html"
    title="Password and tokens"
    width="min(560px, 94vw)"
    @close="emit('close')"
  >
    <ElForm label-position="top" @submit.prevent="change">
      <ElInput v-show="false" :model-value="session?.name" autocomplete="username" readonly />
      <ElFormItem label="Old password" for="old-password">
        <ElInput id="old-password" v-model="words.old" type="password" autocomplete="current-password" show-password />
      </ElFormItem>
      <ElFormItem :label="`New password (${LEAST} letters or more)`" for="new-password">
        <ElInput id="new-password" v-model="words.new" type="password" autocomplete="new-password" show-password />
      </ElFormItem>
      <ElButton native-type="submit" :disabled="!words.old || words.new.length < LEAST">Change password</ElButton>
    </ElForm>
    <h3>Tokens of programs</h3>
    <p class="faint">
      The command line acts for you with a token: <code>reticula import tile.zip --token …</code>, or RETICULA_TOKEN.
    </p>
    <ElAlert v-if="secret" type="success" :closable="false" title="The token is shown this once; copy it now.">
      <code data-test="token">{{ secret }}</code>
    </ElAlert>
    <ElTable v-if="tokens.length" :data="tokens" size="small">
      <ElTableColumn prop="title" label="For" />
      <ElTableColumn label="Last used">
        <template #default="{ row }">{{ row.used_at ? row.used_at.slice(0, 16).replace('T', ' ') : 'never' }}</template>
      </ElTableColumn>
      <ElTableColumn width="120" align="right">
        <template #default="{ row }"><ElButton size="small" @click="drop(row.id)">Take back</ElButton></template>
      </ElTableColumn>
    </ElTable>
    <div class="line">
      <ElInput v-model="title" placeholder="What it is for" aria-label="What the token is for" maxlength="100" />
      <ElButton :disabled="!title.trim()" data-test="make-token" @click="make">Make a token</ElButton>
    </div>
  </ElDialog>
</template>

<style scoped>
h3 {
  margin: 22px 0 6px;
}
.line {
  display: flex;
  gap: 8px;
  margin-top: 10px;
}
code {
  overflow-wrap: anywhere;
}
</style>
