/** The proof sheets of the project, and the one that is open: its variants come in as they are made. */
import { createGlobalState } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import {
  aimKey,
  columnsOf,
  merged,
  sorted,
  within,
  type PlanBody,
  type Ranges,
  type Sheet,
  type Variant,
} from '../model/sheets'
import { useGraph } from '../stores/useGraph'

/** Milliseconds between two questions for news while a sheet is made. */
const PAUSE = 500
/** Milliseconds between two looks which of the new ones the formula holds for: each reads all variants. */
const MATCH_EVERY = 3000

export const useSheets = createGlobalState(() => {
  const graph = useGraph()
  const open = ref(false)
  const sheets = shallowRef<Sheet[] | null>(null)
  const sheet = shallowRef<Sheet | null>(null)
  const variants = shallowRef<Variant[]>([])
  const trouble = ref('')
  /** The variants that are chosen, by number. */
  const chosen = ref(new Set<number>())
  /** Whether only the chosen ones are shown, large. */
  const comparing = ref(false)
  const sort = ref('number')
  const descending = ref(false)
  const group = ref('')
  const where = ref('')
  const whereTrouble = ref('')
  /** Whether only the best of a search are shown. */
  const onlyBest = ref(false)
  /** The variants that the formula holds for; null without one. */
  const matches = shallowRef<Set<number> | null>(null)
  const ranges = shallowRef<Ranges>({})
  let timer: ReturnType<typeof setTimeout> | undefined
  let asked = 0
  let matchedAt = 0

  const isOwn = computed(() => sheet.value?.graph_id === graph.state.value?.id)
  const unitOf = (name: string) => (isOwn.value && graph.root.value.dials?.[name]?.unit) || ''
  const columns = computed(() => (sheet.value ? columnsOf(sheet.value, variants.value, unitOf) : []))
  const column = (key: string) => columns.value.find((one) => one.key === key)
  const best = computed(() => new Set(sheet.value?.best ?? []))
  const brushed = computed(() => within(variants.value, columns.value, ranges.value))
  const shown = computed(() => {
    const found = variants.value.filter(
      ({ number }) =>
        (!matches.value || matches.value.has(number)) &&
        (!onlyBest.value || best.value.has(number)) &&
        (!brushed.value || brushed.value.has(number)) &&
        (!comparing.value || chosen.value.has(number)),
    )
    return sorted(found, column(sort.value), descending.value)
  })

  async function attempt(what: () => Promise<void>): Promise<void> {
    try {
      await what()
      trouble.value = ''
    } catch (error) {
      trouble.value = error instanceof Error ? error.message : String(error)
    }
  }

  async function list(): Promise<void> {
    const project = graph.state.value?.project_id
    if (project) await attempt(async () => void (sheets.value = (await api.sheets(project)).sheets))
  }

  /** Show a sheet; its variants are read from the beginning. */
  async function show(id: string | null): Promise<void> {
    clearTimeout(timer)
    asked++
    sheet.value = null
    variants.value = []
    chosen.value = new Set()
    comparing.value = false
    onlyBest.value = false
    ranges.value = {}
    matches.value = null
    where.value = ''
    whereTrouble.value = ''
    sort.value = 'number'
    descending.value = false
    group.value = ''
    if (!id) return
    await look(id, -1)
    // A search is looked at for what is best.
    if ((sheet.value as Sheet | null)?.plan.seek) sort.value = 'verdict'
  }

  /** Ask for what ended since, and again while there is more to come. */
  async function look(id: string, since: number): Promise<void> {
    const turn = ++asked
    clearTimeout(timer)
    let found: Schemas['VariantList']
    try {
      found = await api.variants(id, since)
    } catch (error) {
      if (turn !== asked) return
      trouble.value = error instanceof Error ? error.message : String(error)
      if (sheet.value) timer = setTimeout(() => void look(id, since), 4 * PAUSE)
      return
    }
    if (turn !== asked) return
    trouble.value = ''
    take(found.sheet)
    variants.value = since < 0 ? found.variants : merged(variants.value, found.variants)
    const due = found.sheet.state !== 'running' || performance.now() - matchedAt > MATCH_EVERY
    if (found.variants.length && where.value && due) void match()
    if (found.sheet.state === 'running' && open.value) timer = setTimeout(() => void look(id, found.sheet.ended), PAUSE)
  }

  function take(one: Sheet): void {
    sheet.value = one
    sheets.value = (sheets.value ?? []).map((other) => (other.id === one.id ? one : other))
  }

  async function added(made: Sheet): Promise<void> {
    sheets.value = [made, ...(sheets.value ?? [])]
    await show(made.id)
  }

  /** Do something with the open sheet, and look at it anew. */
  const act = (what: (id: string) => Promise<Sheet>): Promise<void> =>
    attempt(async () => {
      const id = sheet.value?.id
      if (!id) return
      take(await what(id))
      await look(id, -1)
    })

  /** Find the variants that the formula holds for. */
  async function match(): Promise<void> {
    const id = sheet.value?.id
    const text = where.value.trim()
    if (!id || !text) {
      matches.value = null
      whereTrouble.value = ''
      return
    }
    matchedAt = performance.now()
    try {
      const found = await api.matches(id, text)
      if (text !== where.value.trim()) return
      whereTrouble.value = found.trouble
      if (!found.trouble) matches.value = new Set(found.numbers)
    } catch (error) {
      whereTrouble.value = error instanceof Error ? error.message : String(error)
    }
  }

  /** Another project has other sheets; a page that comes back to one goes on asking. */
  watch(
    () => graph.state.value?.project_id,
    () => {
      sheets.value = null
      void show(null)
      if (open.value) void list()
    },
  )
  watch(open, (now) => {
    if (!now) return clearTimeout(timer)
    void list()
    if (sheet.value) void look(sheet.value.id, sheet.value.ended)
  })

  return {
    open,
    sheets,
    sheet,
    variants,
    /** Whether the sheet is of the graph that is open. */
    isOwn,
    columns,
    column,
    shown,
    trouble,
    chosen,
    comparing,
    sort,
    descending,
    group,
    where,
    whereTrouble,
    ranges,
    brushed,
    best,
    onlyBest,
    /** The keys of the columns that are sought. */
    aims: computed(() => {
      const one = sheet.value
      return one ? (one.plan.seek?.aims ?? []).map((aim) => aimKey(one, aim.formula)) : []
    }),
    list,
    show,
    match,
    /** Make a sheet of the graph as it is drawn now. */
    make: (plan: PlanBody, title: string): Promise<void> =>
      attempt(async () => {
        const id = graph.state.value?.id
        if (!id) return
        const { revision, draft, frame } = graph.basis()
        await added(await api.makeSheet(id, { plan, title, revision, draft, frame }))
      }),
    /** Bring one that was saved as a file to the graph. */
    bring: (file: File): Promise<void> =>
      attempt(async () => {
        const id = graph.state.value?.id
        if (!id) return
        await added(await api.bringSheet(id, file))
      }),
    /** Go on seeking, up to so many tries. */
    seekOn: (count: number) =>
      act((id) => {
        const { vary, spread, seed, numbers, seek, table, ending } = sheet.value!.plan
        return api.extendSheet(id, { vary, spread, seed, numbers, seek, table, ending, count })
      }),
    extend: (plan: PlanBody) => act((id) => api.extendSheet(id, plan)),
    stop: () => act((id) => api.stopSheet(id)),
    run: (failed: boolean) => act((id) => api.runSheet(id, failed)),
    rename: (title: string) => act((id) => api.renameSheet(id, title)),
    drop: (): Promise<void> =>
      attempt(async () => {
        const id = sheet.value?.id
        if (!id) return
        await api.dropSheet(id)
        sheets.value = (sheets.value ?? []).filter((one) => one.id !== id)
        await show(null)
      }),
    /** Turn the graph's dials, and set its parameters, to what a variant has. */
    put: (one: Variant): void =>
      graph.edit(
        `take variant ${one.number}`,
        (next) => {
          for (const [name, value] of Object.entries(one.values)) {
            const [node, parameter] = name.split('.', 2) as [string, string?]
            if (parameter && next.nodes[node])
              next.nodes[node].parameters = { ...next.nodes[node].parameters, [parameter]: value }
            else if (next.dials?.[name]) next.dials[name].value = value
          }
        },
        graph.path.value.length,
      ),
    choose: (number: number, more: boolean): void => {
      const now = new Set(more ? chosen.value : [])
      if (more && chosen.value.has(number)) now.delete(number)
      else now.add(number)
      chosen.value = now
    },
  }
})
