<script setup lang="ts">
import { fieldHint } from './typed'

/** A typed field whose value can also be picked, from what the slot holds. Alt and the down arrow open it. */
const props = defineProps<{
  label: string
  hint?: string
  /** What would be right: shown as the hint where there is none. */
  wanted: string
  errors?: string | string[]
  icon: string
  /** What the button does. */
  pick: string
  quiet?: boolean
}>()
const emit = defineEmits<{ leave: [] }>()
const shown = fieldHint(
  () => props.hint,
  () => props.wanted,
)
const text = defineModel<string>('text', { required: true })
const open = defineModel<boolean>('open', { required: true })
</script>

<template>
  <v-text-field
    v-model="text"
    :label="quiet ? undefined : label"
    :aria-label="quiet ? label : undefined"
    v-bind="shown"
    :error-messages="errors"
    :class="{ quiet }"
    autocomplete="off"
    @blur="emit('leave')"
    @keydown.enter="emit('leave')"
    @keydown.alt.down="open = true"
  >
    <template #append-inner>
      <v-menu v-model="open" :close-on-content-click="false">
        <template #activator="{ props: opens }">
          <v-btn
            v-bind="opens"
            :icon="icon"
            variant="text"
            density="compact"
            :aria-label="quiet ? `${pick}: ${label}` : pick"
          />
        </template>
        <slot />
      </v-menu>
    </template>
  </v-text-field>
</template>
