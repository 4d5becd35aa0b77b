<script setup lang="ts">
import { ref } from 'vue'
import { mdiClockOutline } from '@mdi/js'
import PickField from './PickField.vue'
import { readTime } from '@climber/core'
import { typedField } from './typed'

/** A time of day in 24 hours, typed or picked; `HH:MM`. */
const props = defineProps<{
  label: string
  hint?: string
  errors?: string | string[]
  optional?: boolean
  quiet?: boolean
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
  <PickField
    v-model:text="text"
    v-model:open="open"
    :label="label"
    :quiet="quiet"
    :hint="hint"
    :wanted="wanted"
    :errors="said"
    :icon="mdiClockOutline"
    pick="Pick a time"
    @leave="leave"
  >
    <v-time-picker v-model="value" format="24hr" hide-title />
  </PickField>
</template>
