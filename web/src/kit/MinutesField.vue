<script setup lang="ts">
import { computed } from 'vue'
import { durationWords } from '../manners/words'
import { readMinutes } from './reading'
import { fieldHint, typedField } from './typed'

/** A duration, typed as `90`, `1 h 30` or `1:30`; in minutes. */
const props = defineProps<{
  label: string
  min?: number
  max?: number
  hint?: string
  errors?: string | string[]
  optional?: boolean
  placeholder?: string
}>()
const value = defineModel<number | undefined>({ required: true })
const low = computed(() => props.min ?? 0)
const high = computed(() => props.max ?? 10_080)
const { text, said, leave } = typedField(value, {
  read: readMinutes,
  show: durationWords,
  against: (found) =>
    found < low.value || found > high.value
      ? `between ${durationWords(low.value)} and ${durationWords(high.value)}`
      : undefined,
  wanted: () => 'a time such as 90 or 1 h 30',
  optional: () => props.optional,
  errors: () => props.errors,
  live: true,
})
const shown = fieldHint(
  () => props.hint,
  () => 'minutes, or such as 1 h 30',
)
</script>

<template>
  <v-text-field
    v-model="text"
    :label="label"
    v-bind="shown"
    :error-messages="said"
    :placeholder="placeholder"
    autocomplete="off"
    @blur="leave"
  />
</template>
