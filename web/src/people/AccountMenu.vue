<script setup lang="ts">
/** Who one is, and what goes with it: sharing the project, password, tokens, signing out. Nothing on the own machine. */
import Menu from '../shared/controls/Menu.vue'
import { ElButton, ElDropdownItem, ElDropdownMenu, ElTag } from 'element-plus'
import { ref } from 'vue'
import { useProject } from '../stores/useProject'
import { useSession } from '../stores/useSession'
import AccountDialog from './AccountDialog.vue'
import ShareDialog from './ShareDialog.vue'

const { session, signOut } = useSession()
const project = useProject()
const sharing = ref(false)
const about = ref(false)
</script>

<template>
  <template v-if="session?.sign_in">
    <ElTag v-if="project.lookOnly.value" type="info" effect="plain" data-test="look-only">looking only</ElTag>
    <ElButton v-if="project.project.value?.role === 'manage'" size="small" data-test="share" @click="sharing = true"
      >Share</ElButton
    >
    <Menu v-if="session.name">
      <ElButton size="small" text data-test="account">{{ session.name }}</ElButton>
      <template #entries>
        <ElDropdownMenu>
          <ElDropdownItem data-test="about-me" @click="about = true">Password and tokens…</ElDropdownItem>
          <ElDropdownItem data-test="sign-out" divided @click="signOut">Sign out</ElDropdownItem>
        </ElDropdownMenu>
      </template>
    </Menu>
    <ShareDialog v-if="sharing && project.project.value" :project="project.project.value" @close="sharing = false" />
    <AccountDialog v-if="about" @close="about = false" />
  </template>
</template>
