<script setup lang="ts">
/** Which cards made the element that was picked last, and from what. */
import { ElButton } from 'element-plus'
import { count } from '../../../shared/numbers'
import { useGraph } from '../../../stores/useGraph'
import { useInspection } from '../../../stores/useInspection'
import { useTitles } from '../useTitles'

const graph = useGraph()
const { steps } = useInspection()
const titleOf = useTitles()
const HOW = { kept: 'passed it on', made: 'made it from another one', new: 'made it' }

function look(feed: string) {
  graph.edit(`look at ${titleOf(feed)}`, (next) => (next.looking_at = feed))
}
</script>

<template>
  <p v-if="!steps" class="faint">Pick a point, edge, corner or face: its way is shown here and on the board.</p>
  <ol v-else>
    <li v-for="(step, n) in steps" :key="n" :class="step.how">
      <ElButton text :title="`Look at ${titleOf(step.feed)}`" @click="look(step.feed)">
        {{ titleOf(step.feed) }}
      </ElButton>
      <span class="faint"
        >{{ n === 0 ? `${step.kind} ${count(step.element)}: ` : `as ${step.kind} ${count(step.element)}: `
        }}{{ HOW[step.how] }}</span
      >
    </li>
  </ol>
</template>

<style scoped>
ol {
  margin: 4px 0;
  padding-left: 20px;
}
ol .el-button {
  min-height: 24px;
  padding: 0 5px;
}
.new .el-button,
.made .el-button {
  font-weight: 700;
}
</style>
