<script setup lang="ts">
/** One parameter in an opened card: its field, or what it follows, is wired to or bound to; and what can be made of it. */
import Menu from '../../shared/controls/Menu.vue'
import Choice from '../../shared/controls/Choice.vue'
import { ElButton, ElDropdownItem, ElDropdownMenu } from 'element-plus'
import { computed, inject } from 'vue'
import type { OperatorState, ParameterState } from '../../api/client'
import type { Summary } from '../../api/results'
import ControlFields from '../../fields/ControlFields.vue'
import ParameterField from '../../fields/ParameterField.vue'
import { scriptKey, wireEndKey } from '../../stores/injectionKeys'
import { useEvaluation } from '../../stores/useEvaluation'
import { useGraph } from '../../stores/useGraph'
import { useRewriting } from '../../stores/useRewriting'
import { useParameterSource } from './useParameterSource'

const props = defineProps<{
  id: string
  operator: OperatorState
  parameter: ParameterState
  value: unknown
  values: Record<string, unknown>
  error: string
  summary?: Summary | null
  shapes: string[]
  controls: ParameterState[] | null
}>()
/** `plain`: it is to be stored as it is; else a key may be set. */
const emit = defineEmits<{ preview: [value: unknown]; commit: [value: unknown, plain?: boolean] }>()
const { keyed } = useEvaluation()
const served = computed(() => keyed.value.nodes[props.id]?.[props.parameter.name])

const graph = useGraph()
const rewriting = useRewriting()
const WireEnd = inject(wireEndKey, null)
const openScript = inject(scriptKey, () => {})
const {
  choosing,
  over,
  titleOf,
  wire,
  bound,
  source,
  excerpt,
  tied,
  followers,
  isText,
  canBeDial,
  others,
  act,
  drag,
  dragOver,
  drop,
  choose,
} = useParameterSource(props, (value) => emit('commit', value, true))
</script>

<template>
  <div
    class="row"
    :class="{ takes: parameter.takes_wire, over }"
    :data-test="`row-${parameter.name}`"
    :data-help="`operator:${operator.name}#${parameter.name}`"
    @dragover="dragOver"
    @dragleave="over = false"
    @drop="drop"
  >
    <WireEnd v-if="parameter.takes_wire && WireEnd" :parameter="parameter" />
    <div v-if="wire" class="held">
      <span class="faint">{{ parameter.label }}</span>
      <span>← {{ titleOf(wire) }}</span>
      <ElButton
        class="small"
        text
        title="Write what the wire gives as a formula here"
        :data-test="`as-text-${parameter.name}`"
        @click="rewriting.asText(id, parameter.name)"
      >
        as text
      </ElButton>
      <ElButton
        class="small"
        text
        title="Take the wire away"
        :aria-label="`Cut the wire of ${parameter.label}`"
        @click="emit('commit', parameter.default, true)"
      >
        cut
      </ElButton>
    </div>
    <div v-else-if="bound" class="held">
      <span class="faint" :title="parameter.help">{{ parameter.label }}</span>
      <span class="chip" :title="`Bound to the dial ${bound} of this graph`"
        >dial {{ bound.replaceAll('_', ' ') }}</span
      >
      <ElButton
        class="small"
        text
        title="Keep the value here, without the dial"
        :data-test="`free-${parameter.name}`"
        @click="act('free')"
      >
        set free
      </ElButton>
    </div>
    <div v-else-if="source !== null" class="excerpt">
      <pre class="mono" :title="source">{{ excerpt }}</pre>
      <ElButton data-test="edit-script" @click="openScript(id)">Edit the text</ElButton>
      <ElButton
        text
        data-test="as-nodes"
        title="Draw this text as value nodes, beside it"
        @click="rewriting.asNodes(id, parameter.name)"
      >
        Show as nodes
      </ElButton>
    </div>
    <ControlFields
      v-else-if="parameter.widget === 'controls'"
      :controls="controls"
      :value="value as Record<string, unknown>"
      :shapes="shapes"
      :served="served as Record<string, unknown>"
      @preview="emit('preview', $event)"
      @commit="emit('commit', $event, true)"
    />
    <template v-else>
      <ElButton
        v-if="parameter.takes_wire && isText && !tied"
        class="small nodes"
        text
        title="Draw this formula as value nodes"
        :data-test="`as-nodes-${parameter.name}`"
        @click="rewriting.asNodes(id, parameter.name)"
      >
        nodes
      </ElButton>
      <ParameterField
        :parameter="parameter"
        :value="value"
        :values="values"
        :error="error"
        :summary="summary"
        :shapes="shapes"
        :served="served"
        @preview="emit('preview', $event)"
        @commit="(typed, plain) => emit('commit', typed, plain)"
      />
    </template>
    <Menu v-if="canBeDial" class="menu" @command="act">
      <ElButton
        class="small grip"
        text
        draggable="true"
        :aria-label="`More for ${parameter.label}`"
        :title="`Drag ${parameter.label} onto another parameter to make that one follow it, or onto the dials to make it a dial; click for more`"
        :data-test="`more-${parameter.name}`"
        @dragstart="drag"
      >
        ⋮
      </ElButton>
      <template #entries>
        <ElDropdownMenu>
          <ElDropdownItem v-if="!bound" command="dial" :data-test="`make-dial-${parameter.name}`"
            >Make it a dial</ElDropdownItem
          >
          <ElDropdownItem v-for="up in bound ? 0 : graph.path.value.length" :key="up" :command="`dial ${up}`"
            >… also of the graph {{ up }} further out</ElDropdownItem
          >
          <ElDropdownItem v-if="bound" command="free">Set it free from the dial</ElDropdownItem>
          <ElDropdownItem v-if="parameter.takes_wire" command="follow" :data-test="`follow-${parameter.name}`"
            >Follow another parameter …</ElDropdownItem
          >
          <ElDropdownItem command="reset">Back to its default</ElDropdownItem>
        </ElDropdownMenu>
      </template>
    </Menu>
    <div v-if="choosing" class="held">
      <span class="faint">follows</span>
      <Choice
        class="grow"
        :entries="others"
        hint="choose a parameter"
        :label="`${parameter.label} follows`"
        :data-test="`follow-choice-${parameter.name}`"
        @choose="choose"
        @close="choosing = false"
      />
    </div>
    <p v-if="tied" class="tie faint">follows {{ titleOf(tied.node) }}: {{ tied.parameter.replaceAll('_', ' ') }}</p>
    <p v-if="followers.length" class="tie faint" :data-test="`followers-${parameter.name}`">
      followed by
      {{ followers.map((pair) => `${titleOf(pair.node)}: ${pair.parameter.replaceAll('_', ' ')}`).join(', ') }}
    </p>
    <p v-if="error && (wire || bound || source !== null)" class="bad" role="alert">{{ error }}</p>
  </div>
</template>

<style scoped>
.row {
  position: relative;
  padding: 0 22px 0 12px;
  border-radius: 5px;
}
.over {
  outline: 2px dashed var(--accent);
}
.row :deep(.vue-flow__handle) {
  left: 4px;
  top: 15px;
}
.menu {
  position: absolute;
  right: 0;
  top: 3px;
}
.grip {
  padding: 0 4px;
  font-weight: 700;
  cursor: grab;
}
.nodes {
  position: absolute;
  right: 24px;
  top: -9px;
  z-index: 1;
  display: none;
  background: var(--raised);
}
.row:hover .nodes,
.row:focus-within .nodes {
  display: block;
}
.held {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  min-height: 30px;
  font-size: 13px;
}
.held .faint {
  flex: 0 0 92px;
}
.grow {
  flex: 1;
}
.chip {
  padding: 0 7px;
  border: 1px solid var(--accent);
  border-radius: 9px;
  color: var(--accent);
}
.small {
  min-height: 22px;
  font-size: 12px;
  color: var(--faint-ink);
}
.tie {
  margin: 0 0 2px;
  font-size: 12px;
}
.bad {
  margin: 2px 0;
  color: var(--bad);
}
.excerpt pre {
  margin: 0 0 4px;
  padding: 4px 7px;
  overflow: hidden;
  border: 1px solid var(--line);
  border-radius: 5px;
  background: var(--sheet);
  font-size: 12px;
  line-height: 1.4;
  text-overflow: ellipsis;
}
</style>
