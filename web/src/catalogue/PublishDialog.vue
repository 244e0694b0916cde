<script setup lang="ts">
/** Publish a folded card: name, release, help; what differs from the release before is seen first. */
import { ElButton, ElDialog, ElInput, ElMessage } from 'element-plus'
import { computed, reactive, ref, watch } from 'vue'
import { api, Refusal, type Schemas } from '../api/client'
import { useGraph } from '../stores/useGraph'
import { useCatalogue } from '../stores/useCatalogue'

const props = defineProps<{ node: string; picture: () => Promise<string> }>()
const emit = defineEmits<{ close: []; done: [operator: string] }>()
const graph = useGraph()
const { catalogue, load } = useCatalogue()

const node = graph.document.value.nodes[props.node]
const title = node?.title || props.node
const name =
  title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^[^a-z]+|_+$/g, '')
    .slice(0, 48) || 'operator'
const known = (wanted: string) =>
  catalogue.operators.find(
    (entry) => entry.published?.name === wanted && entry.published.release === entry.published.releases.at(-1),
  )
const before = known(name)
const form = reactive({
  name,
  release: before ? next(before.published!.release) : '1.0.0',
  title,
  summary: before?.summary ?? '',
  help: before?.description ?? '',
  changes: '',
  tags: before?.keywords.join(', ') ?? '',
  reason: '',
})
const trouble = ref('')
const seen = ref<Schemas['PublicationState'] | null>(null)
const busy = ref(false)
const image = ref('')
void props.picture().then((made) => (image.value = made))
const earlier = computed(() => known(form.name)?.published ?? null)
watch(
  () => [form.name, form.release],
  () => (seen.value = null),
)

function next(release: string): string {
  const [major, minor] = release.split('.').map(Number)
  return `${major}.${minor! + 1}.0`
}

async function send(dry: boolean) {
  const id = graph.state.value?.id
  if (!id) return
  busy.value = true
  trouble.value = ''
  try {
    const made = await api.publish(id, {
      ...graph.basis(),
      node: props.node,
      ...form,
      tags: form.tags
        .split(',')
        .map((tag) => tag.trim())
        .filter(Boolean),
      picture: dry ? '' : image.value,
      dry,
    })
    seen.value = made
    if (dry) return
    await load()
    ElMessage({ type: 'success', message: `${form.title} ${form.release} is in the catalogue.` })
    emit('done', made.operator)
  } catch (error) {
    trouble.value = error instanceof Error ? error.message : String(error)
    if (error instanceof Refusal && error.state.parameter === 'reason' && !seen.value) await send(true)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <ElDialog model-value :title="`Publish ‘${title}’`" width="640" append-to-body top="7vh" @close="emit('close')">
    <form class="form" data-test="publish-form" data-help="own_operators.html#publish" @submit.prevent="send(false)">
      <div class="beside">
        <div class="fields">
          <label>title <ElInput v-model="form.title" maxlength="80" required data-test="publish-title" /></label>
          <label
            >name
            <ElInput
              v-model="form.name"
              class="mono"
              pattern="[a-z][a-z0-9_]{0,47}"
              required
              title="small letters, digits and _"
              data-test="publish-name"
          /></label>
          <label
            >release
            <ElInput
              v-model="form.release"
              class="mono"
              pattern="\d+\.\d+\.\d+"
              required
              title="three numbers, e.g. 1.2.0"
              data-test="publish-release"
          /></label>
          <p v-if="earlier" class="faint">
            {{ earlier.release }} is published; a larger one goes beside it, and what uses {{ earlier.release }} keeps
            it.
          </p>
          <label
            >summary
            <ElInput
              v-model="form.summary"
              maxlength="200"
              required
              placeholder="what it does, in one line"
              data-test="publish-summary"
          /></label>
          <label>tags <ElInput v-model="form.tags" placeholder="separated by commas" data-test="publish-tags" /></label>
        </div>
        <img v-if="image" :src="image" alt="Picture of the view, for the page" />
      </div>
      <label class="tall"
        >help
        <ElInput
          type="textarea"
          v-model="form.help"
          :rows="5"
          placeholder="how to use it: what to connect, what the dials do, what to look out for"
          data-test="publish-help"
        />
      </label>
      <label v-if="earlier">changes <ElInput v-model="form.changes" placeholder="what is new in this release" /></label>
      <div v-if="seen" class="seen" data-test="publish-seen">
        <p v-if="!seen.before">
          The first release.
          {{ seen.trials.length ? 'Its example runs.' : 'It has no example, since what feeds it comes from outside.' }}
        </p>
        <template v-else>
          <p>
            Against {{ seen.before }}:<template
              v-if="!seen.differences.gone.length && !seen.differences.new.length && !seen.differences.changed.length"
            >
              nothing differs.</template
            >
          </p>
          <ul>
            <li v-for="line in seen.differences.gone" :key="line" class="bad">gone: {{ line }}</li>
            <li v-for="line in seen.differences.new" :key="line">new: {{ line }}</li>
            <li v-for="line in seen.differences.changed" :key="line">{{ line }}</li>
            <li v-for="line in seen.breaks" :key="line" class="bad">breaks {{ line }}</li>
          </ul>
        </template>
      </div>
      <label v-if="seen?.breaks.length"
        >reason
        <ElInput
          v-model="form.reason"
          required
          placeholder="why it is published although it breaks that"
          data-test="publish-reason"
      /></label>
      <p v-if="trouble" class="bad" role="alert" data-test="publish-trouble">{{ trouble }}</p>
      <p class="end">
        <ElButton text @click="emit('close')">Cancel</ElButton
        ><ElButton :disabled="busy" data-test="publish-try" @click="send(true)"> Try it</ElButton
        ><ElButton type="primary" native-type="submit" :disabled="busy" data-test="publish-go">Publish</ElButton>
      </p>
    </form>
  </ElDialog>
</template>

<style scoped>
.form,
.fields {
  display: flex;
  flex-direction: column;
  gap: 7px;
}
.beside {
  display: flex;
  gap: 14px;
}
.fields {
  flex: 1;
}
img {
  width: 220px;
  height: 138px;
  border: 1px solid var(--line);
  border-radius: 6px;
  object-fit: cover;
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
}
label > :last-child {
  flex: 1;
  margin-left: auto;
  max-width: calc(100% - 72px);
}
.tall {
  align-items: flex-start;
}
p {
  margin: 0;
}
.seen {
  padding: 6px 10px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--sheet);
}
ul {
  margin: 3px 0 0;
  padding-left: 18px;
}
.bad {
  color: var(--bad);
}
.end {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
}
</style>
