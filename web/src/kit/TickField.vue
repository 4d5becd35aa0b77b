<script setup lang="ts">
/** Yes or no. */
defineProps<{ label: string; quiet?: boolean; disabled?: boolean }>()
const value = defineModel<boolean>({ required: true })
</script>

<template>
  <v-checkbox
    v-model="value"
    class="tick"
    density="compact"
    hide-details
    :label="quiet ? undefined : label"
    :aria-label="quiet ? label : undefined"
    :disabled="disabled"
  />
</template>
