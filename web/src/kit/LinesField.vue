<script setup lang="ts">
import { ref, watch } from 'vue'
import { steady } from '../manners/press'

/** Several things, a line each: read when the field is left, so that half a line is nobody's mistake. */
const props = defineProps<{
  label: string
  hint?: string
  errors?: string | string[]
  rows?: number
  placeholder?: string
}>()
const value = defineModel<string>({ required: true })
const text = ref(value.value)
const told = steady(() => props.errors)
watch(value, (now) => (text.value = now))
</script>

<template>
  <v-textarea
    v-model="text"
    class="lines-field"
    :label="label"
    :hint="hint"
    :persistent-hint="Boolean(hint)"
    :error-messages="told"
    :rows="rows ?? 3"
    :auto-grow="rows === 1"
    :placeholder="placeholder"
    spellcheck="false"
    @blur="value = text"
  />
</template>
