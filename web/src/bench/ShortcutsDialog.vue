<script setup lang="ts">
/** Every action with its shortcut, which can be changed here and is kept. */
import { ElAlert, ElButton, ElDialog, ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { fit, shortcutOf, type Action } from '../model/actions'
import { canBeKey, rekeyed, type Keys } from '../model/keys'

const props = defineProps<{ open: boolean; actions: Action[]; usual: Action[]; keys: Keys }>()
const emit = defineEmits<{ close: []; keys: [keys: Keys] }>()
const words = ref('')
/** The action that waits for its key, and what was said about the last one. */
const waiting = ref('')
const said = ref('')
const listed = computed(() =>
  props.actions
    .filter((action) => (words.value ? fit(words.value, action.name, action.help) > 0 : action.shortcut))
    .map((action) => ({ ...action, changed: action.name in props.keys })),
)

function ask(name: string) {
  waiting.value = waiting.value === name ? '' : name
  said.value = ''
}

function press(event: KeyboardEvent) {
  if (!waiting.value) return
  event.preventDefault()
  event.stopPropagation()
  const pressed = shortcutOf(event)
  if (!canBeKey(pressed)) return
  const name = waiting.value
  waiting.value = ''
  if (pressed === 'Escape') return
  const other = props.actions.find((action) => action.shortcut === pressed && action.name !== name)
  said.value = other ? `${pressed} was ‘${other.name}’, which has no key now.` : ''
  emit('keys', rekeyed(props.usual, props.keys, name, pressed))
}

function reset(name: string) {
  const own = props.usual.find((action) => action.name === name)?.shortcut ?? ''
  emit('keys', rekeyed(props.usual, props.keys, name, own))
}
</script>

<template>
  <ElDialog
    :model-value="open"
    title="Shortcuts"
    data-help="looking.html"
    width="min(860px, 92vw)"
    :close-on-press-escape="!waiting"
    @close="emit('close')"
  >
    <div class="head">
      <ElInput
        v-model="words"
        clearable
        placeholder="find an action, with a key or without"
        aria-label="Find an action"
      />
      <ElButton :disabled="!Object.keys(keys).length" data-test="usual-keys" @click="emit('keys', {})"
        >All as they were</ElButton
      >
    </div>
    <ElAlert v-if="said" type="warning" :closable="false" :title="said" data-test="key-said" />
    <dl data-test="shortcuts" @keydown.capture="press">
      <div v-for="action in listed" :key="action.name">
        <dt>
          <ElButton
            class="key"
            :class="{ changed: action.changed }"
            :aria-label="`Key of ${action.name}: ${action.shortcut ?? 'none'}`"
            :title="`Click, and press another key for ‘${action.name}’`"
            :data-test="`key-${action.name}`"
            @click="ask(action.name)"
            >{{ waiting === action.name ? 'press …' : (action.shortcut ?? '–') }}</ElButton
          >
        </dt>
        <dd>
          <b>{{ action.name }}</b> <span class="faint">{{ action.help }}</span>
          <ElButton
            v-if="action.changed"
            text
            :aria-label="`The usual key of ${action.name}`"
            title="As it was"
            @click="reset(action.name)"
            >↺</ElButton
          >
        </dd>
      </div>
    </dl>
    <p class="faint">
      In the view: drag turns, the wheel zooms, the right button shifts; arrows turn too, with Shift they shift, + and −
      zoom; a click picks, Shift adds. On the board: drag moves, Ctrl-click selects more cards, Shift-drag draws a box
      around them; in lanes, arrows walk and Enter opens.
    </p>
  </ElDialog>
</template>

<style scoped>
.head {
  display: flex;
  gap: 8px;
  margin-bottom: 8px;
}
dl {
  columns: 2;
  max-height: 58vh;
  margin: 8px 0 0;
  overflow: auto;
}
div > div {
  display: flex;
  gap: 9px;
  padding: 1px 0;
  break-inside: avoid;
}
dt {
  flex: 0 0 112px;
  text-align: right;
}
dd {
  margin: 0;
  padding-top: 2px;
}
.key {
  min-width: 34px;
  font-family: var(--mono);
}
.changed {
  border-color: var(--accent);
  color: var(--accent);
}
</style>
