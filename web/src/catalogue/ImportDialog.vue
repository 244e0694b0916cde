<script setup lang="ts">
/** What a package brings, what is there already, what collides; decided before anything changes. */
import { ElAlert, ElButton, ElDialog, ElMessage, ElRadio, ElRadioGroup } from 'element-plus'
import { computed, reactive, ref } from 'vue'
import { api, type ReviewState } from '../api/client'
import { useCatalogue } from '../stores/useCatalogue'

const props = defineProps<{ review: ReviewState }>()
const emit = defineEmits<{ close: []; done: [operator: string] }>()
const { load } = useCatalogue()
const choices = reactive<Record<string, 'keep' | 'beside'>>({})
const trouble = ref('')
const STATES = { new: 'new', 'there already': 'there already, the same', collides: 'there is another one of this name' }
const undecided = computed(() =>
  props.review.operators.filter((entry) => entry.state === 'collides' && !choices[entry.operator]),
)
const fresh = computed(() =>
  props.review.operators.filter((entry) => entry.state === 'new' || choices[entry.operator] === 'beside'),
)

/** Whose package it is, and whether that is who it was before. */
const signature = computed(() => {
  const { state, publisher, fingerprint, before } = props.review.signature
  const who = fingerprint ? `‘${publisher || 'somebody'}’ (${fingerprint})` : ''
  if (state === 'changed')
    return {
      type: 'warning' as const,
      title: who ? `Signed by ${who}, and before by ${before}` : `Not signed, and before signed by ${before}`,
      more: 'Ask whoever sent it whether that is meant, before you take it.',
    }
  const more = {
    own: 'That is this workshop itself.',
    same: 'The releases before were signed by the same key.',
    known: 'Other operators here were signed by the same key.',
    new: 'Nothing here was signed by this key before. Compare its sixteen letters with the sender’s.',
    unsigned: 'Nobody vouches for it but the one you have it from.',
  }[state]
  return { type: 'info' as const, title: who ? `Signed by ${who}` : 'Not signed', more }
})

async function take() {
  try {
    const made = await api.takePackage(props.review.review, choices)
    await load()
    ElMessage({
      type: 'success',
      message: made.brought.length
        ? `In the catalogue now: ${made.brought.join(', ')}.`
        : 'All of it was there already.',
    })
    emit('done', made.brought.at(-1) ?? props.review.main)
  } catch (error) {
    trouble.value = error instanceof Error ? error.message : String(error)
  }
}
</script>

<template>
  <ElDialog
    model-value
    data-help="own_operators.html#packages"
    title="Import a package"
    width="640"
    append-to-body
    @close="emit('close')"
  >
    <p>
      It is about <b>{{ review.main }}</b> and brings:
    </p>
    <ElAlert
      class="signature"
      :type="signature.type"
      :closable="false"
      show-icon
      :title="signature.title"
      :description="signature.more"
      data-test="signature"
    />
    <ul class="list" data-test="review">
      <li
        v-for="entry in review.operators"
        :key="entry.operator"
        :class="{ clash: entry.state === 'collides' }"
        :data-test="`review-${entry.operator}`"
      >
        <p>
          <b>{{ entry.title }}</b> <span class="mono faint">{{ entry.operator }}</span>
          <span class="state">{{ STATES[entry.state] }}</span>
        </p>
        <p v-if="entry.summary">{{ entry.summary }}</p>
        <p class="faint">
          {{ entry.dials.length ? `Dials: ${entry.dials.join(', ')}.` : 'No dials.' }}
          {{ entry.uses.length ? `Uses ${entry.uses.join(', ')}.` : '' }}
          {{
            entry.shapes.length ? `With ${entry.shapes.length} ${entry.shapes.length === 1 ? 'shape' : 'shapes'}.` : ''
          }}
        </p>
        <ElRadioGroup
          v-if="entry.state === 'collides'"
          v-model="choices[entry.operator]"
          :aria-label="`What to do with ${entry.operator}`"
        >
          <ElRadio value="beside" :data-test="`beside-${entry.operator}`"
            >keep both; this one as <b>{{ entry.other_name }}</b></ElRadio
          >
          <ElRadio value="keep">keep the one that is here</ElRadio>
        </ElRadioGroup>
      </li>
    </ul>
    <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
    <p class="end">
      <span v-if="undecided.length" class="faint"
        >Decide about {{ undecided.map((entry) => entry.operator).join(', ') }} first.</span
      ><ElButton text @click="emit('close')">Leave it</ElButton
      ><ElButton type="primary" :disabled="undecided.length > 0" data-test="take-package" @click="take">
        {{ fresh.length ? `Take ${fresh.length}` : 'Nothing new: done' }}
      </ElButton>
    </p>
  </ElDialog>
</template>

<style scoped>
p {
  margin: 0;
}
.signature {
  margin-top: 8px;
}
.list {
  margin: 8px 0;
  padding: 0;
  list-style: none;
}
li {
  margin-bottom: 7px;
  padding: 6px 10px;
  border: 1px solid var(--line);
  border-radius: 6px;
}
.clash {
  border-color: var(--warn);
  background: var(--warn-wash);
}
.state {
  float: right;
  font-size: 13px;
}
.bad {
  color: var(--bad);
}
.end {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 8px;
}
</style>
