<script setup lang="ts" generic="T extends string | number">
/** One of a few, or none yet, all in sight side by side; what stands already and is pressed again is told again. */
defineProps<{ label: string; options: readonly { value: T; title: string }[]; modelValue: T | undefined }>()
defineEmits<{ 'update:modelValue': [value: T] }>()
</script>

<template>
  <span class="rating" role="group" :aria-label="label">
    <button
      v-for="option in options"
      :key="option.value"
      type="button"
      :aria-pressed="modelValue === option.value"
      @click="$emit('update:modelValue', option.value)"
    >
      {{ option.title }}
    </button>
  </span>
</template>
