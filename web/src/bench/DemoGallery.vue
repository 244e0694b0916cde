<script setup lang="ts">
/** The demos with their pictures; a click opens one in this project. */
import { ElButton, ElCard, ElEmpty, ElSkeleton } from 'element-plus'
import { onMounted } from 'vue'
import { useDemos } from '../stores/useDemos'

const emit = defineEmits<{ taken: [] }>()
const { demos, taking, trouble, load, take } = useDemos()
onMounted(load)

async function open(name: string) {
  await take(name)
  emit('taken')
}
</script>

<template>
  <ElEmpty v-if="trouble" :image-size="50" :description="trouble"
    ><ElButton @click="load">Look again</ElButton></ElEmpty
  >
  <ElSkeleton v-else-if="!demos.length" :rows="4" animated />
  <div v-else class="gallery" data-help="tutorials/index.html" data-test="gallery">
    <ElCard
      v-for="demo in demos"
      :key="demo.name"
      class="demo"
      shadow="hover"
      role="button"
      tabindex="0"
      :aria-label="`${demo.title}: ${demo.about}`"
      :aria-busy="taking === demo.name"
      :data-test="`demo-${demo.name}`"
      @click="open(demo.name)"
      @keydown.enter.stop="open(demo.name)"
      @keydown.space.stop.prevent="open(demo.name)"
    >
      <img
        v-if="demo.picture"
        :src="`/api/demos/${demo.name}/picture`"
        alt=""
        loading="lazy"
        width="320"
        height="200"
      />
      <b>{{ demo.title }}</b>
      <span class="faint">{{ taking === demo.name ? 'opening …' : `${demo.cards} cards` }}</span>
      <p class="faint">{{ demo.about }}</p>
    </ElCard>
  </div>
</template>

<style scoped>
.gallery {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(168px, 1fr));
  gap: 12px;
}
.demo {
  --el-card-padding: 10px;
  --el-card-bg-color: var(--sheet);
  cursor: pointer;
  text-align: left;
  font-size: 13px;
}
img {
  display: block;
  width: 100%;
  height: auto;
  margin-bottom: 6px;
  border-radius: 4px;
}
.faint {
  margin-left: 4px;
}
p.faint {
  margin-left: 0;
}
p {
  margin-top: 3px;
  margin-bottom: 0;
}
</style>
