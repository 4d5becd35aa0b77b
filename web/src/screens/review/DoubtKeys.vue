<script setup lang="ts">
import type { Confidence } from '@climber/contract'

/** How sure one is, marked before an answer is given, as in the test room. */
defineProps<{ doubt?: Confidence }>()
const emit = defineEmits<{ mark: [doubt: Confidence] }>()
const doubts = [
  ['?', 'between two'],
  ['0', 'no idea'],
] as const
</script>

<template>
  <button
    v-for="[sign, word] in doubts"
    :key="sign"
    type="button"
    class="press"
    :aria-pressed="doubt === word"
    @click="emit('mark', word)"
  >
    <kbd>{{ sign }}</kbd> {{ word }}
  </button>
</template>
