<script setup lang="ts">
/** The bench, once it is known who one is; who was signed out signs in on top of it, so that no work is lost. */
import { ElConfigProvider } from 'element-plus'
import { computed, defineAsyncComponent, ref, shallowRef, watch, type Component } from 'vue'
import { useOpening } from './bench/useOpening'
import { askAhead } from './api/ahead'
import { useSession } from './stores/useSession'

/** Messages come below the bar at the top. */
const MESSAGES = { offset: 56 }

/** The bench is fetched while the project is: the first requests do not wait for it. */
const bench = shallowRef<Component>()
const missing = ref(false)
import('./bench/Bench.vue').then(
  (fetched) => (bench.value = fetched.default),
  () => (missing.value = true),
)
const SignIn = defineAsyncComponent(() => import('./people/SignIn.vue'))
const { session, known, load } = useSession()
const { opened, trouble, open } = useOpening()
watch(known, (now) => now && void open())
void load()
askAhead(location.hash.slice(1))
const signingIn = computed(() => session.value !== null && !known.value)
</script>

<template>
  <ElConfigProvider size="small" :message="MESSAGES">
    <p v-if="missing" class="opening" role="alert">A part of the page could not be fetched. Load the page again.</p>
    <component :is="bench" v-else-if="bench && (opened || (trouble && !signingIn))" />
    <p v-else-if="!signingIn" class="opening" aria-live="polite">Opening the project …</p>
    <SignIn v-if="signingIn" :again="opened" />
  </ElConfigProvider>
</template>

<style scoped>
.opening {
  display: grid;
  place-items: center;
  height: 100vh;
  margin: 0;
  color: var(--faint-ink);
}
</style>
