<script setup lang="ts">
/** The way in: name and password. */
import { ElAlert, ElButton, ElForm, ElFormItem, ElInput } from 'element-plus'
import { ref } from 'vue'
import { useSession } from '../stores/useSession'

defineProps<{ again: boolean }>()
const { session, trouble, signIn } = useSession()
const name = ref('')
const password = ref('')
const refusal = ref('')
const busy = ref(false)

async function enter() {
  busy.value = true
  refusal.value = ''
  try {
    await signIn(name.value.trim(), password.value)
  } catch (error) {
    refusal.value = error instanceof Error ? error.message : String(error)
  }
  password.value = ''
  busy.value = false
}
</script>

<template>
  <main class="cover" data-test="sign-in">
    <ElForm class="way-in" label-position="top" @submit.prevent="enter">
      <h1><img src="/icon.svg" alt="" width="34" height="34" />Reticula</h1>
      <p v-if="again" class="faint">You were signed out. Sign in again, and your work goes on where it was.</p>
      <p v-else class="faint">Node graphs and formulas that edit meshes. Sign in to see your projects.</p>
      <ElAlert v-if="trouble || refusal" type="error" :closable="false" show-icon :title="refusal || trouble" />
      <ElAlert
        v-if="session && !session.accounts"
        type="info"
        :closable="false"
        show-icon
        title="There are no accounts yet"
        description="Whoever runs this machine makes one with: reticula user add NAME"
      />
      <ElFormItem label="Name" for="sign-in-name">
        <ElInput id="sign-in-name" v-model="name" autocomplete="username" autofocus size="large" />
      </ElFormItem>
      <ElFormItem label="Password" for="sign-in-password">
        <ElInput
          id="sign-in-password"
          v-model="password"
          type="password"
          autocomplete="current-password"
          show-password
          size="large"
        />
      </ElFormItem>
      <ElButton type="primary" native-type="submit" size="large" :loading="busy" :disabled="!name || !password"
        >Sign in</ElButton
      >
    </ElForm>
  </main>
</template>

<style scoped>
.cover {
  position: fixed;
  inset: 0;
  z-index: 3000;
  display: grid;
  place-items: center;
  background: linear-gradient(var(--backdrop-top), var(--backdrop-bottom));
}
.way-in {
  display: grid;
  gap: 14px;
  width: min(380px, 92vw);
  padding: 28px 30px 30px;
  border: 1px solid var(--line);
  border-radius: 10px;
  background: var(--sheet);
  box-shadow: var(--shade);
}
h1 {
  display: flex;
  align-items: center;
  gap: 12px;
  margin: 0;
  font-size: 26px;
}
p {
  margin: 0;
}
.way-in :deep(.el-form-item) {
  margin: 0;
}
</style>
