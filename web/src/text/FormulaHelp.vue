<script setup lang="ts">
/** Below a formula that is being written: what it gives or what is wrong with it, and what can be written next. */
import { useDebounceFn } from '@vueuse/core'
import { computed, inject, onMounted, ref, watch } from 'vue'
import { useCatalogue } from '../stores/useCatalogue'
import { offersAt, spotAt, type Offer } from './completion'
import { plainOf } from './plainError'
import { textPlaceKey } from './textPlace'
import { useText } from '../stores/useText'

const props = defineProps<{ text: string; cursor: number; parameter: string }>()
const emit = defineEmits<{ choose: [text: string, cursor: number] }>()
const MOST = 7
const place = inject(textPlaceKey, null)
const texts = useText()
const name = computed(() => (place?.prefix ?? '') + props.parameter)
const { catalogue } = useCatalogue()
const state = computed(() => (place ? texts.of(place.node, name.value) : null))
const spot = computed(() => spotAt(props.text, props.cursor))
const open = computed(() => spot.value.word.length > 0 || spot.value.owner !== null)
const offers = computed(() =>
  open.value ? offersAt(spot.value, state.value, catalogue.functions, false).slice(0, MOST) : [],
)
const at = ref(0)
const current = computed(() => texts.isAbout(place?.node ?? '', name.value, props.text))

const ask = useDebounceFn(() => place && void texts.ask(place.node, name.value, props.text), 160)
onMounted(ask)
watch(() => props.text, ask)
watch(spot, () => (at.value = 0))

function choose(offer: Offer) {
  const insert = offer.insert ?? offer.label
  const { from } = spot.value
  emit('choose', props.text.slice(0, from) + insert + props.text.slice(props.cursor), from + insert.length)
}

/** Keys that belong to the list while it is open; returns whether it took the key. */
function key(event: KeyboardEvent): boolean {
  if (!offers.value.length || !spot.value.word) return false
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    at.value = (at.value + (event.key === 'ArrowDown' ? 1 : offers.value.length - 1)) % offers.value.length
  } else if (event.key === 'Tab' && offers.value[at.value]!.label !== spot.value.word) {
    choose(offers.value[at.value]!)
  } else return false
  event.preventDefault()
  return true
}
defineExpose({ key })
</script>

<template>
  <div class="help" data-test="formula-help">
    <p class="told" :class="{ bad: current && state?.error, old: !current }" role="status">
      <template v-if="current && state?.error"
        >{{
          state.error.column
            ? `at ${state.error.line! > 1 ? `line ${state.error.line}, ` : ''}${state.error.column}: `
            : ''
        }}{{ plainOf(state.error) }}</template
      >
      <template v-else-if="current && state?.result">gives {{ state.result }}</template>
      <template v-else>…</template>
    </p>
    <ul v-if="offers.length" role="listbox" aria-label="What can be written">
      <li
        v-for="(offer, number) in offers"
        :key="offer.label"
        role="option"
        :aria-selected="number === at"
        :title="offer.info"
        @mousedown.prevent="choose(offer)"
      >
        <b class="mono">{{ offer.label }}</b><span class="faint mono">{{ offer.detail }}</span
        ><span class="faint info">{{ offer.info }}</span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.help {
  flex: 1 1 100%;
  min-width: 0;
  margin: 1px 0 3px;
  font-size: 12.5px;
}
.told {
  margin: 0;
  color: var(--good);
  overflow-wrap: anywhere;
}
.told.bad {
  color: var(--bad);
}
.told.old {
  color: var(--faint-ink);
}
ul {
  margin: 2px 0 0;
  padding: 2px 0;
  list-style: none;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--sheet);
}
li {
  display: flex;
  gap: 8px;
  padding: 0 6px;
  line-height: 1.6;
  cursor: pointer;
  white-space: nowrap;
  overflow: hidden;
}
li[aria-selected='true'] {
  background: var(--accent-wash);
}
.info {
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
