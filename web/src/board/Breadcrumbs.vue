<script setup lang="ts">
/** Where one is: the graph, and the graphs inside it that one went into; and which round of a loop is looked at. */
import { useKeys } from '../stores/useKeys'
import TextField from '../shared/controls/TextField.vue'
import { ElButton } from 'element-plus'
import { computed } from 'vue'
import { useGraph } from '../stores/useGraph'
import { levelOf, nodeOf } from '../model/levels'
import { copiesOf } from '../model/linked'

const { hint } = useKeys()

const graph = useGraph()

const steps = computed(() =>
  graph.path.value.map((step, number) => {
    const around = levelOf(graph.root.value, graph.path.value.slice(0, number)).graph
    const node = around.nodes[nodeOf(step)]
    return {
      title: node?.title || nodeOf(step),
      operator: node?.operator ?? '',
      round: step.split('@')[1] ?? null,
      copies: node?.linked ? copiesOf(graph.root.value, node.linked) : 0,
    }
  }),
)
const last = computed(() => steps.value.at(-1))
const loops = computed(() => ['repeat', 'for_each'].includes(last.value?.operator ?? ''))

function choose(text: string) {
  graph.goRound(/^\d+$/.test(text.trim()) ? Number(text) : null)
}
</script>

<template>
  <nav v-if="steps.length" class="trail" aria-label="Where you are" data-test="trail">
    <ElButton text data-test="leave-0" title="Back to the graph itself" @click="graph.leave(0)">
      {{ graph.root.value.title || 'Graph' }}
    </ElButton>
    <template v-for="(step, number) in steps" :key="number">
      <span class="faint">›</span>
      <ElButton
        text
        :aria-current="number === steps.length - 1 ? 'location' : undefined"
        :data-test="`leave-${number + 1}`"
        @click="graph.leave(number + 1)"
      >
        {{ step.title }}
      </ElButton>
    </template>
    <label v-if="loops" class="round faint"
      >{{ last?.operator === 'repeat' ? 'round' : 'part' }}
      <TextField
        class="number"
        inputmode="numeric"
        :value="last?.round"
        placeholder="last"
        :label="last?.operator === 'repeat' ? 'Round' : 'Part'"
        data-test="round"
        @settle="choose"
    /></label>
    <span v-if="(last?.copies ?? 0) > 1" class="faint fixed" data-test="in-copies"
      >linked: an edit here is made in {{ last?.copies }} cards</span
    >
    <span v-if="graph.fixed.value && !graph.lookOnly.value" class="faint fixed">published, cannot be changed</span>
    <ElButton
      class="up"
      data-test="go-out"
      :title="`Out of this graph${hint('Out')}`"
      @click="graph.leave(steps.length - 1)"
    >
      Out
    </ElButton>
  </nav>
</template>

<style scoped>
.trail {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px;
  padding: 3px 10px;
  border-bottom: 1px solid var(--accent);
  background: var(--accent-wash);
  font-size: 13px;
}
.el-button {
  padding: 0 6px;
  min-height: 25px;
}
.el-button[aria-current] {
  font-weight: 700;
}
.number {
  width: 62px;
}
.fixed {
  margin-left: 6px;
}
.up {
  margin-left: auto;
}
</style>
