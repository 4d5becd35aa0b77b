<script setup lang="ts" generic="T extends string | number">
/** One of several, in a list that opens. */
defineProps<{
  label: string
  options: readonly { value: T; title: string }[]
  hint?: string
  errors?: string | string[]
  quiet?: boolean
}>()
const value = defineModel<T>({ required: true })
</script>

<template>
  <v-select
    v-model="value"
    :items="options"
    :label="quiet ? undefined : label"
    :aria-label="quiet ? label : undefined"
    :hint="hint"
    :persistent-hint="Boolean(hint)"
    :error-messages="errors"
    :menu-props="{ contentClass: 'kit-menu' }"
  />
</template>
