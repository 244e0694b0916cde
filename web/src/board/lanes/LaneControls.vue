<script setup lang="ts">
/** What an open row shows below its line: the controls of its node, and lanes that pass by. */
import { useElementSize } from '@vueuse/core'
import { inject, provide, ref, watch } from 'vue'
import { publishKey } from '../../stores/injectionKeys'
import { textPlaceKey } from '../../text/textPlace'
import CardCounts from '../card/CardCounts.vue'
import CardFields from '../card/CardFields.vue'
import CardHeader from '../card/CardHeader.vue'
import CardMessages from '../card/CardMessages.vue'
import CardNested from '../card/CardNested.vue'
import type { CardState } from '../card/useCard'
import LaneStrip from './LaneStrip.vue'
import type { NodeEntry } from './useLaneEntries'

const props = defineProps<{
  card: CardState
  entry: NodeEntry
  wide: number
  step: number
  titleOf: (id: string) => string
}>()
const emit = defineEmits<{ resize: [height: number] }>()
const { id, node, declared, runsGraph } = props.card
const openPublish = inject(publishKey, () => {})
provide(textPlaceKey, { node: id })
const body = ref<HTMLElement>()
const { height } = useElementSize(body)
watch(height, (now) => emit('resize', now), { immediate: true })
</script>

<template>
  <div ref="body" class="inside">
    <LaneStrip
      v-if="wide"
      :row="entry.row"
      :first="entry.first"
      :beside="entry.beside"
      :wide="wide"
      :step="step"
      :tall="height"
      bare
      :title-of="titleOf"
    />
    <div class="controls" @click.stop @pointerdown.stop>
      <CardHeader :card="card" open />
      <p class="about faint">
        <b v-if="node?.title">{{ declared?.label }}: </b>{{ declared?.summary }}.
      </p>
      <CardNested v-if="declared && runsGraph" :id="id" :operator="declared" @publish="openPublish(id)" />
      <CardFields :card="card" />
      <CardMessages :card="card" open />
      <CardCounts :card="card" open />
    </div>
  </div>
</template>

<style scoped>
.inside {
  display: flex;
}
.controls {
  flex: 1;
  min-width: 0;
  margin: 2px 8px 6px 4px;
  padding: 5px 9px 6px;
  border: 1px solid var(--strong-line);
  border-radius: 7px;
  background: var(--raised);
  cursor: default;
}
.about {
  margin: 2px 0;
}
</style>
