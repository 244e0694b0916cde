<script setup lang="ts">
/** A card's title, and what is done to it in one click: look, ghost, skip. */
import { useKeys } from '../../stores/useKeys'
import LinkedMark from './LinkedMark.vue'
import Lookers from './Lookers.vue'
import TextField from '../../shared/controls/TextField.vue'
import { ElButton } from 'element-plus'
import { useGraph } from '../../stores/useGraph'
import { useView } from '../../stores/useView'
import type { CardState } from './useCard'
import { useCardEdits } from './useCardEdits'

const { hint } = useKeys()

const props = defineProps<{ card: CardState; open?: boolean }>()
const { id, node, title, looking, isValue, inputs, runsGraph } = props.card
const { look, toggleGhost, skip, rename } = useCardEdits(props.card)
const graph = useGraph()
const view = useView()
</script>

<template>
  <header @dblclick="runsGraph && graph.enter(id)">
    <TextField v-if="open" class="title bare nodrag" :value="title" label="Title" @settle="rename" />
    <span v-else class="title">{{ title }}</span>
    <LinkedMark :linked="node?.linked" />
    <Lookers :node="id" />
    <ElButton
      v-if="!isValue"
      class="small nodrag"
      text
      :aria-pressed="looking"
      :title="looking ? 'The view shows this' : `Look at this${hint('Look at')}`"
      :data-test="`look-${id}`"
      @click.stop="look()"
    >
      look
    </ElButton>
    <ElButton
      v-if="open && !isValue"
      class="small nodrag"
      text
      :aria-pressed="view.ghosts.includes(id)"
      :title="`Draw its result as a faint wire beside what is looked at${hint('Ghost')}`"
      :data-test="`ghost-${id}`"
      @click.stop="toggleGhost"
    >
      ghost
    </ElButton>
    <ElButton
      v-if="inputs.length"
      class="small nodrag"
      text
      :aria-pressed="!!node?.skip"
      :title="`Pass the geometry through unchanged${hint('Skip')}`"
      @click.stop="skip"
    >
      skip
    </ElButton>
  </header>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  gap: 4px;
}
.title {
  flex: 1 1 auto;
  min-width: 0;
  overflow: hidden;
  font-weight: 700;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.small {
  min-height: 22px;
  padding: 0 5px;
  font-size: 12px;
  color: var(--faint-ink);
}
.small[aria-pressed='true'] {
  color: var(--accent);
}
</style>
