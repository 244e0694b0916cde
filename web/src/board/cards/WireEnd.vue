<script setup lang="ts">
/** Where the wire of a value ends at the parameter of an open card. */
import { Handle, Position } from '@vue-flow/core'
import type { ParameterState } from '../../api/client'

defineProps<{ parameter: ParameterState }>()
</script>

<template>
  <Handle
    :id="`=${parameter.name}`"
    type="target"
    :position="Position.Left"
    class="value"
    :title="`${parameter.label}: takes a value`"
  />
</template>
