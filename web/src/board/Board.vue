<script setup lang="ts">
/** Where the graph is: as lanes, a row for each node, or as cards with wires between them. */
import { useKeys } from '../stores/useKeys'
import { useLocalStorage } from '@vueuse/core'
import { ElButton, ElInput, ElSegmented } from 'element-plus'
import { computed, defineAsyncComponent, nextTick, provide, ref, watch } from 'vue'
import type { Way } from '../model/layout'
import { followersOf } from '../model/parameterLinks'
import { linkKey, tiesKey } from '../stores/injectionKeys'
import { useGraph } from '../stores/useGraph'
import { useSelectedCards } from '../stores/useSelectedCards'
import Breadcrumbs from './Breadcrumbs.vue'
import SearchBox from './SearchBox.vue'
import type { GraphPane } from './surface'
import { FORMS, useBoardForm } from './useBoardForm'
import { useCardSets } from './useCardSets'
import WirePreview from './WirePreview.vue'

/** Each is loaded when it is first looked at. */
const Cards = defineAsyncComponent(() => import('./cards/Cards.vue'))
const Lanes = defineAsyncComponent(() => import('./lanes/Lanes.vue'))

const { hint } = useKeys()

const graph = useGraph()
const searching = ref(false)
const words = ref('')
const followers = computed(() => followersOf(graph.document.value))
provide(tiesKey, followers)
provide(linkKey, (node) => void linkCopy(node))
const chosenCards = ref<ReadonlySet<string>>(new Set())
const { cards } = useSelectedCards()
const ids = computed(() => Object.keys(graph.document.value.nodes))
const selected = computed(() => ids.value.filter((id) => chosenCards.value.has(id)))
const form = useBoardForm()
/** Which way cards run, in this browser. */
const way = useLocalStorage<Way>('reticula board way', 'down')
const pane = ref<GraphPane>()
const wire = ref('')
/** The feed of which it is told what goes through. */
const asked = ref('')

watch(selected, (now) => (cards.value = now))
watch([() => graph.state.value?.id, () => graph.path.value.join('/')], () => {
  chosenCards.value = new Set()
  asked.value = wire.value = words.value = ''
})
const follow = () => pane.value?.follow?.()
const { foldChosen, linkCopy, frameChosen, nameJump, copy, pasteText } = useCardSets({ selected, select, follow, show })

function select(chosen: string[]) {
  chosenCards.value = new Set(chosen)
}

/** Move the board to a card, wherever it is. */
async function go({ path, id }: { path: string[]; id: string }) {
  searching.value = false
  if (path.join() !== graph.path.value.join()) {
    graph.leave(0)
    for (const step of path) await graph.enter(step)
    await nextTick()
  }
  await show(id)
}

async function show(id: string) {
  select([id])
  await nextTick()
  await pane.value?.centre(id)
}

defineExpose({
  selected,
  select,
  cutWire: () => pane.value?.cutWire?.() ?? false,
  fit: async () => pane.value?.fit?.(),
  showAll: async () => pane.value?.showAll?.(),
  follow,
  linkCopy,
  tidy: () => pane.value?.tidy?.(),
  form,
  turnForm: () => (form.value = form.value === 'lanes' ? 'cards' : 'lanes'),
  foldChosen,
  frameChosen,
  nameJump,
  copy,
  pasteText,
  search: () => (searching.value = true),
  ask: () => (asked.value = asked.value ? '' : (selected.value[0] ?? '')),
})
</script>

<template>
  <section class="board" aria-label="Board" data-help="looking.html#on-the-board">
    <div class="bar">
      <b>Board</b>
      <ElSegmented
        v-model="form"
        :options="[...FORMS]"
        aria-label="How the graph is drawn"
        :title="`A row for each node, or cards with wires${hint('Lanes or cards')}`"
        data-test="board-form"
      />
      <ElInput
        v-if="form === 'lanes'"
        v-model="words"
        class="words"
        clearable
        :placeholder="`filter ${ids.length} ${ids.length === 1 ? 'card' : 'cards'}`"
        aria-label="Filter the rows by name or value"
        data-test="filter-lanes"
        spellcheck="false"
      />
      <span v-else class="faint">{{ ids.length }} {{ ids.length === 1 ? 'card' : 'cards' }}</span>
      <ElButton
        v-if="selected.length > 1"
        data-test="fold"
        :title="`Make one card of these${hint('Fold')}`"
        @click="foldChosen"
      >
        Fold {{ selected.length }}
      </ElButton>
      <ElButton v-if="selected.length > 1" text data-test="frame" title="Put a frame around these" @click="frameChosen">
        Frame
      </ElButton>
      <ElButton v-if="wire" class="cut" data-test="cut" @click="pane?.cutWire?.()">Cut this wire</ElButton>
      <ElButton
        text
        data-test="search"
        :title="`Search in the graph${hint('Search in the graph')}`"
        @click="searching = !searching"
      >
        Search
      </ElButton>
      <template v-if="form === 'cards'">
        <ElButton
          v-if="selected.length > 1"
          text
          data-test="align"
          title="Put these in a line; they stay there"
          @click="pane?.align?.()"
          >Align</ElButton
        >
        <ElButton
          text
          :aria-pressed="way === 'across'"
          data-test="across"
          title="Cards run from left to right, or top to bottom"
          @click="way = way === 'across' ? 'down' : 'across'"
          >Across</ElButton
        >
        <ElButton text title="Show all cards" data-test="all-cards" @click="pane?.showAll?.()">All cards</ElButton>
        <ElButton text title="Lay all cards out again, those placed by hand too" @click="pane?.tidy?.()">Tidy</ElButton>
      </template>
    </div>
    <Breadcrumbs />
    <div class="pane">
      <WirePreview v-if="asked" :feed="asked" @close="asked = ''" />
      <SearchBox v-if="searching" @go="go" @close="searching = false" />
      <Cards
        v-if="form === 'cards'"
        ref="pane"
        v-model:wire="wire"
        v-model:asked="asked"
        :chosen="chosenCards"
        :way="way"
        @select="select"
      />
      <Lanes v-else ref="pane" :chosen="chosenCards" :words="words" @select="select" @go="go" />
    </div>
  </section>
</template>

<style scoped>
.board {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.pane {
  position: relative;
  flex: 1;
  min-height: 0;
}
.bar {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 2px 10px 2px 14px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
  font-size: 13px;
}
.bar .faint {
  flex: 1;
  white-space: nowrap;
}
.words {
  flex: 1;
}
.bar .el-button {
  padding: 0 6px;
}
</style>
