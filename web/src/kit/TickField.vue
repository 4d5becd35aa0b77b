<script setup lang="ts">
/** Yes or no. */
defineProps<{ modelValue: boolean | undefined; label: string; quiet?: boolean; disabled?: boolean }>()
defineEmits<{ 'update:modelValue': [value: boolean] }>()
</script>

<template>
  <v-checkbox
    :model-value="modelValue"
    class="tick"
    density="compact"
    hide-details
    :label="quiet ? undefined : label"
    :aria-label="quiet ? label : undefined"
    :disabled="disabled"
    @update:model-value="$emit('update:modelValue', Boolean($event))"
  />
</template>
