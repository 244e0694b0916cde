<script setup lang="ts">
/** The bench, once it is known who one is; who was signed out signs in on top of it, so that no work is lost. */
import { ElConfigProvider } from 'element-plus'
import { computed, onMounted, ref, watch } from 'vue'
import Bench from './bench/Bench.vue'
import SignIn from './people/SignIn.vue'
import { useSession } from './stores/useSession'

const { session, known, trouble, load } = useSession()
const begun = ref(false)
watch(known, (now) => (begun.value ||= now))
onMounted(load)
const signingIn = computed(() => session.value !== null && !known.value)
</script>

<template>
  <ElConfigProvider size="small">
    <Bench v-if="begun || (trouble && !signingIn)" />
    <SignIn v-if="signingIn" :again="begun" />
  </ElConfigProvider>
</template>
