<script setup lang="ts">
/** Every edit of the graph: click to look at that moment, name it, go back to it, or compare two. Newest first. */
import { useElementSize } from '@vueuse/core'
import { ElButton, ElMessageBox, ElSwitch } from 'element-plus'
import { computed, onMounted, ref, watch } from 'vue'
import { whenOf, type Moment } from '../../../model/history'
import { count } from '../../../shared/numbers'
import { ROW, useVirtualRows } from '../../../shared/useVirtualRows'
import { useGraph } from '../../../stores/useGraph'
import { useHistory } from '../../../stores/insight/useHistory'

const graph = useGraph()
const { history, trouble, compared, lookedAt, title, load, look, name, compare } = useHistory()
const all = ref(true)
const marked = ref<number | null>(null)
const body = ref<HTMLElement>()
const { height } = useElementSize(body)

const BEGINNING: Moment = {
  revision: 0,
  label: 'the beginning',
  author: '',
  at: '',
  name: '',
  before: -1,
  used: true,
  branch: 0,
}
const rows = computed(() => [...history.value.moments.filter((one) => all.value || one.used).reverse(), BEGINNING])
const left = computed(() => history.value.moments.filter((one) => !one.used).length)
const total = computed(() => rows.value.length)
const visible = useVirtualRows(total, height)
const shown = computed(() => rows.value.slice(visible.first.value, visible.last.value))
const at = computed(() => lookedAt.value ?? history.value.now)
const current = computed(() => rows.value.find((one) => one.revision === at.value))
const today = new Date()

onMounted(load)
watch(() => graph.state.value?.revision, load)

const LANES = 5
/** Where the dot of a branch is: the way to now first, others beside it. */
const lane = (one: Moment) => (one.used ? 0 : 1 + ((one.branch - 1) % (LANES - 1)))

async function rename(one: Moment) {
  const answer = await ElMessageBox.prompt('What this moment is called; empty takes the name away:', 'Name a moment', {
    inputValue: one.name,
    confirmButtonText: 'Name it',
    cancelButtonText: 'Cancel',
  }).catch(() => null)
  if (answer) await name(one.revision, ((answer as { value?: string }).value ?? '').trim())
}

function pick(one: Moment, event: MouseEvent | KeyboardEvent) {
  if (event.shiftKey) void compare(Math.min(one.revision, at.value), Math.max(one.revision, at.value))
  else void look(one.revision)
}

function step(by: number) {
  const now = rows.value.findIndex((one) => one.revision === at.value)
  const next = rows.value[now + by]
  if (next) void look(next.revision)
}
</script>

<template>
  <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
  <p class="faint">
    {{ count(history.moments.length) }} edits. Click one to look at the graph as it was after it; nothing changes.
  </p>
  <label v-if="left" class="all">
    <ElSwitch v-model="all" size="small" data-test="history-all" /> {{ count(left) }} that undo left behind
  </label>
  <div v-if="current" class="acts">
    <ElButton class="small" data-test="name-moment" @click="rename(current)">{{
      current.name ? 'Rename' : 'Name it'
    }}</ElButton>
    <ElButton class="small" :disabled="marked === current.revision" data-test="mark" @click="marked = current.revision">
      Mark it
    </ElButton>
    <ElButton
      class="small"
      :disabled="marked === null || marked === current.revision"
      title="What differs between the marked moment and this one"
      data-test="compare-moments"
      @click="compare(marked!, current.revision)"
    >
      Compare with the mark
    </ElButton>
  </div>
  <div v-if="compared" class="compared" data-test="compared">
    <p class="faint">
      From ‘{{ title(history.moments.find((one) => one.revision === compared!.old)) }}’ to ‘{{
        title(history.moments.find((one) => one.revision === compared!.new))
      }}’: <ElButton text class="small" aria-label="Close the comparison" @click="compared = null">×</ElButton>
    </p>
    <p v-for="(one, n) in compared.changes" :key="n">
      <b v-if="one.node" class="node">{{ one.node }}</b>{{ one.what }}
    </p>
    <p v-if="!compared.changes.length" class="faint">Nothing but places of cards.</p>
    <p v-if="compared.more" class="faint">… and {{ count(compared.more) }} more</p>
  </div>
  <div
    ref="body"
    class="moments"
    role="listbox"
    tabindex="0"
    aria-label="Moments, newest first"
    data-test="moments"
    @scroll="visible.scrolled.value = ($event.target as HTMLElement).scrollTop"
    @keydown.up.prevent="step(-1)"
    @keydown.down.prevent="step(1)"
  >
    <div :style="{ height: `${visible.tall.value}px`, position: 'relative' }">
      <div
        v-for="(one, n) in shown"
        :key="one.revision"
        class="moment"
        role="option"
        :aria-selected="one.revision === at"
        :class="{ now: one.revision === history.now, at: one.revision === at, away: !one.used, named: one.name }"
        :style="{ top: `${visible.offset.value + n * ROW}px` }"
        :title="`${one.label}${one.author ? ` · ${one.author}` : ''}${one.at ? ` · ${new Date(one.at).toLocaleString('en-GB')}` : ''}\nClick: look at it. Shift: compare with what is looked at.`"
        :data-test="`moment-${one.revision}`"
        @click="pick(one, $event)"
      >
        <span class="dot" :style="{ marginLeft: `${lane(one) * 9}px` }">{{ one.used ? '●' : '○' }}</span>
        <span class="words">{{ one.name || one.label || 'a change' }}</span>
        <span v-if="one.author" class="who faint">{{ one.author }}</span>
        <span class="when mono faint">{{
          one.revision === history.now ? 'now' : one.at ? whenOf(one.at, today) : ''
        }}</span>
      </div>
    </div>
  </div>
</template>

<style scoped>
.all {
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: 12.5px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin: 4px 0;
}
.acts .el-button {
  margin: 0;
}
.compared {
  max-height: 180px;
  margin: 4px 0;
  padding: 2px 8px;
  overflow: auto;
  border-radius: 5px;
  background: var(--raised);
  font-size: 12.5px;
  overflow-wrap: anywhere;
}
.node {
  margin-right: 5px;
}
.moments {
  height: calc(100% - 130px);
  min-height: 180px;
  overflow: auto;
  border-top: 1px solid var(--line);
}
.moment {
  position: absolute;
  left: 0;
  right: 0;
  display: flex;
  gap: 6px;
  align-items: center;
  height: 26px;
  padding: 0 4px;
  border-radius: 4px;
  cursor: pointer;
}
.moment:hover {
  background: color-mix(in srgb, var(--accent) 10%, transparent);
}
.moment.at {
  background: var(--accent-wash);
}
.dot {
  flex: none;
  color: var(--wire, var(--faint-ink));
  font-size: 10px;
}
.now .dot {
  color: var(--accent);
}
.words {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.away .words {
  color: var(--faint-ink);
}
.named .words {
  font-weight: 700;
}
.who,
.when {
  flex: none;
  font-size: 12px;
}
.bad {
  color: var(--bad);
}
</style>
