<script setup lang="ts">
import { fieldHint } from './typed'

/** A line of text, or several. */
const props = defineProps<{
  modelValue: string | undefined
  label: string
  hint?: string
  errors?: string | string[]
  optional?: boolean
  lines?: number
  /** The label is for screen readers only: a table's head says it. */
  quiet?: boolean
  type?: 'text' | 'url' | 'email'
  placeholder?: string
}>()
defineEmits<{ 'update:modelValue': [value: string] }>()
const shown = fieldHint(
  () => props.hint,
  () => (props.optional ? 'may stay empty' : undefined),
)
</script>

<template>
  <v-textarea
    v-if="lines"
    :model-value="modelValue"
    :label="quiet ? undefined : label"
    :aria-label="quiet ? label : undefined"
    v-bind="shown"
    :error-messages="errors"
    :class="{ quiet }"
    :rows="lines"
    @update:model-value="$emit('update:modelValue', $event ?? '')"
  />
  <v-text-field
    v-else
    :model-value="modelValue"
    :type="type ?? 'text'"
    :label="quiet ? undefined : label"
    :aria-label="quiet ? label : undefined"
    v-bind="shown"
    :placeholder="placeholder"
    :error-messages="errors"
    :class="{ quiet }"
    @update:model-value="$emit('update:modelValue', $event ?? '')"
  />
</template>
