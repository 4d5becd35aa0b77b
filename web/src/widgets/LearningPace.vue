<script setup lang="ts">
/** A switch that shows what being a faster or a slower learner would mean: a multiple of what is known of that, kept nowhere. */
const learns = defineModel<number>({ required: true })
const paces = [
  [0.7, 'slower'],
  [1, 'as it looks'],
  [1.4, 'faster'],
] as const
</script>

<template>
  <span class="rating" role="group" aria-label="Learning">
    <button
      v-for="[by, words] in paces"
      :key="by"
      type="button"
      :aria-pressed="learns === by"
      @click="learns = by"
    >
      {{ words }}
    </button>
  </span>
</template>
