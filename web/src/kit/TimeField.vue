<script setup lang="ts">
import { ref } from 'vue'
import { mdiClockOutline } from '@mdi/js'
import { readTime } from './reading'
import { typedField } from './typed'

/** A time of day in 24 hours, typed or picked; `HH:MM`. */
const props = defineProps<{
  label: string
  hint?: string
  errors?: string | string[]
  optional?: boolean
}>()
const value = defineModel<string | undefined>({ required: true })
const wanted = 'a time such as 17:30'
const { text, said, leave } = typedField(value, {
  read: readTime,
  show: (time) => time,
  wanted: () => wanted,
  optional: () => props.optional,
  errors: () => props.errors,
  live: false,
})
const open = ref(false)
</script>

<template>
  <v-text-field
    v-model="text"
    :label="label"
    :hint="hint ?? wanted"
    :persistent-hint="Boolean(hint)"
    :error-messages="said"
    autocomplete="off"
    @blur="leave"
    @keydown.enter="leave"
    @keydown.alt.down="open = true"
  >
    <template #append-inner>
      <v-menu v-model="open" :close-on-content-click="false">
        <template #activator="{ props: opens }">
          <v-btn
            v-bind="opens"
            :icon="mdiClockOutline"
            variant="text"
            density="compact"
            aria-label="Pick a time"
          />
        </template>
        <v-time-picker v-model="value" format="24hr" hide-title />
      </v-menu>
    </template>
  </v-text-field>
</template>
