<script setup lang="ts">
/** Proof sheets, over the whole page: one is planned, or looked at as a wall, a table and plots. */
import {
  ElButton,
  ElDialog,
  ElDropdownItem,
  ElDropdownMenu,
  ElEmpty,
  ElMessageBox,
  ElProgress,
  ElSkeleton,
} from 'element-plus'
import { useFileDialog } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { nowhere, planned, soughtWords, type PlanBody, type Sheet } from '../model/sheets'
import { askName } from '../shared/askName'
import { count } from '../shared/numbers'
import Choice from '../shared/controls/Choice.vue'
import Menu from '../shared/controls/Menu.vue'
import { useGraph } from '../stores/useGraph'
import ChosenBar from './ChosenBar.vue'
import PlanForm from './PlanForm.vue'
import SheetPlots from './SheetPlots.vue'
import { useSheets } from './useSheets'
import VariantTable from './VariantTable.vue'
import Wall from './Wall.vue'
import WallBar from './WallBar.vue'

const sheets = useSheets()
const graph = useGraph()
const planning = ref(false)
const extending = ref(false)
const busy = ref(false)
const oneScale = ref(true)
const least = ref(150)
const NEW = '+'
const FILE = '/'
const MOST_TRIES = 2000
const entries = computed(() => [
  ...(sheets.sheets.value ?? []).map((one) => ({
    value: one.id,
    label: one.title,
    help: one.plan.seek ? `seeks ${soughtWords(one)}` : `${planned(one)} variants`,
  })),
  ...(graph.lookOnly.value
    ? []
    : [
        { value: NEW, label: 'New proof sheet…', help: '' },
        { value: FILE, label: 'From a file…', help: 'one that was saved here or elsewhere' },
      ]),
])
/** The newest sheet of the graph is shown first; without one, one is planned. */
watch(
  () => [sheets.open.value, sheets.sheets.value] as const,
  ([open, list]) => {
    if (!open || !list || sheets.sheet.value || planning.value) return
    const first = list.find((one) => one.graph_id === graph.state.value?.id)
    if (first) void sheets.show(first.id)
    else planning.value = !graph.lookOnly.value
  },
  { immediate: true },
)
const file = useFileDialog({ accept: '.zip', multiple: false, reset: true })
file.onChange((found) => void (found?.[0] && bring(found[0])))
async function bring(one: File) {
  await sheets.bring(one)
  if (!sheets.trouble.value) planning.value = extending.value = false
}
function pick(id: string) {
  if (id === FILE) return file.open()
  planning.value = id === NEW
  extending.value = false
  void sheets.show(id === NEW ? null : id)
}
async function make(plan: PlanBody, title: string) {
  busy.value = true
  await (extending.value ? sheets.extend(plan) : sheets.make(plan, title))
  busy.value = false
  if (!sheets.trouble.value) planning.value = extending.value = false
}
const sheet = sheets.sheet
const all = computed(() => (sheet.value ? planned(sheet.value) : 0))
const open = (one: Sheet) => planned(one) - one.done - one.failed
const share = computed(() =>
  sheet.value && all.value ? Math.floor((100 * (all.value - open(sheet.value))) / all.value) : 0,
)
/** Seconds that the rest takes, from the pace since this page looks on. */
const began = ref<{ at: number; left: number } | null>(null)
watch(
  () => [sheet.value?.id, sheet.value?.state] as const,
  ([, state]) => (began.value = state === 'running' ? { at: performance.now(), left: open(sheet.value!) } : null),
)
const left = computed(() => {
  const rest = sheet.value ? open(sheet.value) : 0
  if (!began.value || began.value.left - rest < 3) return ''
  const seconds = ((performance.now() - began.value.at) / 1000 / (began.value.left - rest)) * rest
  return seconds < 90 ? `about ${Math.ceil(seconds)} s left` : `about ${Math.ceil(seconds / 60)} min left`
})
const words = computed(() => {
  if (!sheet.value) return ''
  const { done, failed, state, best, plan } = sheet.value
  if (state === 'running' && !done && !failed) return 'workers are getting ready …'
  const made = plan.seek
    ? `${count(done + failed)} of ${count(all.value)} tries${failed ? `, ${count(failed)} failed` : ''}, ${best.length} best`
    : `${count(done)} of ${count(all.value)} made${failed ? `, ${count(failed)} failed` : ''}`
  return state === 'running'
    ? `${made} ${left.value && `– ${left.value}`}`
    : state === 'done'
      ? made
      : `${made}, stopped`
})
/** Says that what is best is not good enough. */
const short = computed(() => {
  const first = sheets.variants.value.find((one) => sheets.best.value.has(one.number))
  return first && !first.meets ? 'No try meets all conditions so far; the one with ★ lacks least.' : ''
})
const trouble = computed(
  () =>
    sheets.trouble.value ||
    sheet.value?.trouble ||
    (sheet.value ? nowhere(sheet.value, sheets.variants.value) || short.value : ''),
)
/** Another graph, or other dials: another plan. */
const offered = computed(() => [graph.state.value?.id, ...Object.keys(graph.root.value.dials ?? {})].join(' '))
const mayEdit = computed(() => !graph.lookOnly.value)
const saved = computed(() => [
  { value: 'csv', label: 'Save the table as CSV', off: false },
  { value: 'parquet', label: 'Save the table as Parquet', off: false },
  { value: 'file', label: 'Save the sheet as a file', off: false },
  ...(sheet.value?.plan.ending
    ? [{ value: 'results', label: `Save the results (.${sheet.value.plan.ending})`, off: !sheet.value.done }]
    : []),
])
const more = computed(() =>
  mayEdit.value
    ? [
        sheet.value?.plan.seek
          ? { value: 'on', label: 'More tries…', off: false }
          : { value: 'extend', label: 'More variants…', off: !sheets.isOwn.value },
        { value: 'failed', label: 'Try failed ones again', off: !sheet.value?.failed },
        { value: 'title', label: 'Rename…', off: false },
        ...saved.value,
        { value: 'drop', label: 'Delete…', off: false },
      ]
    : saved.value,
)
async function act(what: string) {
  const one = sheet.value
  if (!one) return
  if (what === 'extend') extending.value = planning.value = true
  if (what === 'on') {
    const answer = await ElMessageBox.prompt('How many tries in all:', 'More tries', {
      inputValue: String(2 * one.plan.count),
      inputValidator: (text: string) =>
        (Number.isInteger(+text) && +text > one.plan.count && +text <= MOST_TRIES) ||
        `a whole number above ${one.plan.count}, at most ${count(MOST_TRIES)}`,
      confirmButtonText: 'Seek on',
      cancelButtonText: 'Cancel',
    }).catch(() => null)
    if (answer) await sheets.seekOn(+(answer as { value: string }).value)
  }
  if (what === 'failed') await sheets.run(true)
  if (['csv', 'parquet', 'file', 'results'].includes(what)) {
    const href = `/api/sheets/${one.id}/${/^[cp]/.test(what) ? `table?ending=${what}` : what}`
    Object.assign(document.createElement('a'), { href, download: '' }).click()
  }
  if (what === 'title') {
    const title = await askName('Rename', 'Rename', { offered: one.title, asked: 'Its title:' })
    if (title) await sheets.rename(title)
  }
  if (what === 'drop') {
    const text = `‘${one.title}’ and its ${count(all.value)} variants are deleted; the graph stays.`
    const sure = await ElMessageBox.confirm(text, 'Delete the proof sheet', {
      confirmButtonText: 'Delete',
      cancelButtonText: 'Cancel',
    }).catch(() => null)
    if (sure) await sheets.drop()
  }
}
</script>

<template>
  <ElDialog v-model="sheets.open.value" fullscreen class="sheets" aria-label="Proof sheets" data-test="sheets">
    <template #header>
      <div class="head" data-help="proof_sheets.html">
        <b>Proof sheets</b>
        <Choice
          class="which"
          :value="planning && !extending ? NEW : sheet?.id"
          :entries="entries"
          label="Proof sheet"
          hint="choose one"
          data-test="which-sheet"
          @choose="pick"
        />
        <template v-if="sheet && !planning">
          <ElProgress
            v-if="sheet.state === 'running'"
            class="progress"
            :percentage="share"
            :stroke-width="8"
            :show-text="false"
          />
          <span role="status" data-test="sheet-state" :data-state="sheet.state">{{ words }}</span>
          <ElButton v-if="mayEdit && sheet.state === 'running'" data-test="stop-sheet" @click="sheets.stop()"
            >Stop</ElButton
          >
          <ElButton
            v-else-if="mayEdit && (sheet.open || (sheet.plan.seek && sheet.state !== 'done'))"
            type="primary"
            data-test="run-sheet"
            @click="sheets.run(false)"
            >Go on</ElButton
          >
          <Menu placement="bottom-end" data-test="sheet-more" @command="act">
            <ElButton text aria-label="More to do with this sheet">⋮</ElButton>
            <template #entries>
              <ElDropdownMenu>
                <ElDropdownItem
                  v-for="one in more"
                  :key="one.value"
                  :command="one.value"
                  :disabled="one.off"
                  :data-test="`sheet-${one.value}`"
                  >{{ one.label }}</ElDropdownItem
                >
              </ElDropdownMenu>
            </template>
          </Menu>
        </template>
        <span v-if="trouble" class="trouble" role="alert" :title="trouble">{{ trouble }}</span>
      </div>
    </template>
    <div v-if="planning" class="planning">
      <PlanForm
        :key="extending ? sheet?.id : offered"
        :extending="extending ? sheet : null"
        :busy="busy"
        @make="make"
        @cancel="planning = extending = false"
      />
      <aside class="faint">
        <p>
          A proof sheet shows what ‘{{ graph.root.value.title || 'this graph' }}’ makes while its dials are turned:
          every combination of lists and even steps, and as many draws as you like for each.
        </p>
        <p>
          Shapes of the project and rows of a table are made one after the other, each with every variant; what comes
          out can be kept as files.
        </p>
        <p>
          Seeking turns the dials until formulas are smallest, largest or at a value: each try learns from those before.
          With several aims, what is best in one may be worse in another: the best ones are a front.
        </p>
        <p>
          The sheet keeps the graph as it is now. Variants that any sheet of this project has made are not made again.
        </p>
      </aside>
    </div>
    <ElSkeleton
      v-else-if="!sheets.sheets.value || (sheet && !sheets.variants.value.length && all)"
      :rows="6"
      animated
    />
    <ElEmpty v-else-if="!sheet" description="No proof sheet is open.">
      <ElButton v-if="mayEdit" type="primary" @click="pick(NEW)">Plan one</ElButton>
    </ElEmpty>
    <div v-else class="body">
      <div class="left">
        <WallBar v-model:one-scale="oneScale" v-model:least="least" />
        <Wall :one-scale="oneScale" :least="least" />
        <ChosenBar />
      </div>
      <div class="right">
        <SheetPlots />
        <VariantTable />
      </div>
    </div>
  </ElDialog>
</template>

<style>
.sheets.el-dialog {
  display: flex;
  flex-direction: column;
  padding: 0;
}
.sheets .el-dialog__header {
  margin: 0;
  padding: 8px 48px 8px 14px;
  border-bottom: 1px solid var(--line);
}
.sheets .el-dialog__headerbtn {
  top: 0;
  height: 44px;
}
.sheets .el-dialog__body {
  display: flex;
  flex: 1;
  min-height: 0;
}
.sheets .el-dialog__body > * {
  flex: 1;
  min-width: 0;
}
</style>

<style scoped>
.head {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 28px;
  font-size: 13px;
}
.which {
  width: 260px;
}
.progress {
  width: 130px;
}
.trouble {
  overflow: hidden;
  color: var(--bad);
  text-overflow: ellipsis;
  white-space: nowrap;
}
.planning {
  display: grid;
  grid-template-columns: minmax(0, 640px) minmax(180px, 320px);
  gap: 32px;
  padding: 6px 20px;
  overflow: auto;
}
.body {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(300px, 40%);
  min-height: 0;
}
.left,
.right {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  min-width: 0;
  min-height: 0;
}
.left {
  grid-template-rows: auto minmax(0, 1fr) auto;
  border-right: 1px solid var(--line);
}
.right {
  grid-template-rows: minmax(0, 1fr) minmax(0, 1fr);
}
</style>
