<script setup lang="ts">
/** A page of the documentation beside the work. */
import { ElButton, ElDrawer } from 'element-plus'
import { computed } from 'vue'
import { useDemos } from '../stores/useDemos'
import { useHelp } from '../stores/insight/useHelp'

const { page } = useHelp()
const demos = useDemos()
const address = computed(() => `/docs/${page.value}`)

/** Graphs that a page links are opened here, beside it: the bench itself is never shown in a frame. */
function loaded(event: Event) {
  const inside = (event.target as HTMLIFrameElement).contentDocument
  inside?.addEventListener('click', (click) => {
    const link = (click.target as Element).closest('a')
    if (!link?.search || link.origin !== location.origin || link.pathname !== '/') return
    click.preventDefault()
    void demos.follow(link.search)
  })
}
</script>

<template>
  <ElDrawer
    :model-value="page !== ''"
    title="Help"
    size="min(620px, 92vw)"
    :modal="false"
    modal-penetrable
    class="help-drawer"
    data-test="help"
    @close="page = ''"
  >
    <template #header>
      <b>Help</b>
      <ElButton tag="a" text :href="address" target="_blank" rel="noopener">In a tab of its own</ElButton>
    </template>
    <iframe v-if="page" class="page" :src="address" title="Documentation" data-test="help-page" @load="loaded" />
  </ElDrawer>
</template>

<style scoped>
.page {
  width: 100%;
  height: 100%;
  border: 0;
  background: var(--sheet);
}
</style>

<style>
.help-drawer {
  --el-drawer-padding-primary: 12px;
}
.help-drawer .el-drawer__header {
  margin-bottom: 0;
}
</style>
