<script setup lang="ts">
/** A line of text, or several. */
defineProps<{
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
const value = defineModel<string>({ required: true })
</script>

<template>
  <v-textarea
    v-if="lines"
    v-model="value"
    :label="quiet ? undefined : label"
    :aria-label="quiet ? label : undefined"
    :hint="hint ?? (optional ? 'may stay empty' : undefined)"
    :persistent-hint="Boolean(hint)"
    :error-messages="errors"
    :rows="lines"
  />
  <v-text-field
    v-else
    v-model="value"
    :type="type ?? 'text'"
    :label="quiet ? undefined : label"
    :aria-label="quiet ? label : undefined"
    :hint="hint ?? (optional ? 'may stay empty' : undefined)"
    :persistent-hint="Boolean(hint)"
    :placeholder="placeholder"
    :error-messages="errors"
  />
</template>
