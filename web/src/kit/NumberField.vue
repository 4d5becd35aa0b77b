<script setup lang="ts">
import { computed } from 'vue'
import { numberText, readNumber } from './reading'
import { fieldHint, typedField } from './typed'

/** A number with its unit and range. */
const props = defineProps<{
  label: string
  unit?: string
  min?: number
  max?: number
  whole?: boolean
  hint?: string
  errors?: string | string[]
  optional?: boolean
  quiet?: boolean
  placeholder?: string
}>()
const value = defineModel<number | undefined>({ required: true })

const range = computed(() => {
  const { min, max } = props
  if (min !== undefined && max !== undefined) return `from ${min} to ${max}`
  return min !== undefined ? `${min} or more` : max !== undefined ? `${max} or less` : ''
})
const wanted = () => [props.whole ? 'a whole number' : 'a number', range.value].filter(Boolean).join(', ')
const shown = fieldHint(
  () => props.hint,
  () => range.value,
)
const { text, said, leave } = typedField(value, {
  read: readNumber,
  show: numberText,
  against: (found) =>
    (props.whole && !Number.isInteger(found)) ||
    found < (props.min ?? -Infinity) ||
    found > (props.max ?? Infinity)
      ? wanted()
      : undefined,
  wanted,
  optional: () => props.optional,
  errors: () => props.errors,
  live: true,
})
</script>

<template>
  <v-text-field
    v-model="text"
    :label="quiet ? undefined : label"
    :aria-label="quiet ? label : undefined"
    :suffix="unit"
    v-bind="shown"
    :error-messages="said"
    :placeholder="placeholder"
    :class="{ quiet }"
    inputmode="decimal"
    autocomplete="off"
    @blur="leave"
  />
</template>
