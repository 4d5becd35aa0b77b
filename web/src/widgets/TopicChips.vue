<script setup lang="ts">
import type { Topic } from '@climber/contract'

/** Some of the exam's topics: found by typing, each taken out by its own button. */
defineProps<{
  all: Pick<Topic, 'id' | 'title'>[]
  label: string
  quiet?: boolean
  placeholder?: string
  errors?: string | string[]
}>()
const topics = defineModel<string[]>({ required: true })
</script>

<template>
  <v-autocomplete
    v-model="topics"
    :items="all"
    item-value="id"
    :label="quiet ? undefined : label"
    :aria-label="quiet ? label : undefined"
    :placeholder="placeholder"
    :error-messages="errors"
    :class="{ quiet }"
    multiple
    chips
    closable-chips
    clear-on-select
    :menu-props="{ contentClass: 'kit-menu' }"
  />
</template>
