<script setup lang="ts">
/** What is sought: up to three formulas with what they are to be, and conditions that must hold. */
import { ElButton, ElInput, ElInputNumber } from 'element-plus'
import { ref, watch } from 'vue'
import { GOALS, linesOf, type Aim, type PlanBody } from '../model/sheets'
import Choice from '../shared/controls/Choice.vue'

const MOST_AIMS = 3
/** What is sought by now; none while no aim has a formula. */
const seek = defineModel<PlanBody['seek']>({ required: true })
const aims = ref<Aim[]>([{ formula: '', goal: 'smallest', value: 0 }])
const conditions = ref('')
watch(
  [aims, conditions],
  () => {
    const meant = aims.value.filter((aim) => aim.formula.trim())
    seek.value = meant.length ? { aims: meant, conditions: linesOf(conditions.value) } : null
  },
  { deep: true, immediate: true },
)
</script>

<template>
  <div class="seek" data-test="seek">
    <h4>Seek</h4>
    <div v-for="(aim, at) in aims" :key="at" class="aim">
      <ElInput
        v-model="aim.formula"
        :placeholder="at ? 'another aim' : 'volume, or len([p for p in geo.points if p.niches])'"
        :aria-label="`Aim ${at + 1}`"
        title="a formula over what is turned and noted, by name; or on the whole, with geo"
        spellcheck="false"
        :data-test="`aim-${at}`"
      />
      <Choice
        :value="aim.goal"
        :entries="GOALS"
        :label="`What aim ${at + 1} is to be`"
        :data-test="`goal-${at}`"
        @choose="aim.goal = $event as Aim['goal']"
      />
      <ElInputNumber
        v-if="aim.goal === 'at'"
        v-model="aim.value"
        :controls="false"
        :aria-label="`Value of aim ${at + 1}`"
      />
      <ElButton
        v-if="aims.length > 1"
        text
        :aria-label="`Take aim ${at + 1} away`"
        title="take this aim away"
        @click="aims.splice(at, 1)"
        >✕</ElButton
      >
    </div>
    <ElButton
      v-if="aims.length < MOST_AIMS"
      text
      data-test="add-aim"
      @click="aims.push({ formula: '', goal: 'smallest', value: 0 })"
      >+ another aim, which competes</ElButton
    >
    <ElInput
      v-model="conditions"
      type="textarea"
      :rows="2"
      aria-label="Conditions, one on a line"
      placeholder="conditions that must hold, one on a line: volume < 0.002"
      spellcheck="false"
      data-test="conditions"
    />
  </div>
</template>

<style scoped>
h4 {
  margin: 12px 0 6px;
}
.aim {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 150px auto auto;
  align-items: center;
  gap: 8px;
  min-height: 34px;
}
.aim :deep(.el-input-number) {
  width: 84px;
}
</style>
