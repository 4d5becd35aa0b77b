<script setup lang="ts">
import ChoiceRow from '../kit/ChoiceRow.vue'

/** A switch that shows what being a faster or a slower learner would mean: a multiple of what is known of that, kept nowhere. */
const learns = defineModel<number>({ required: true })
const paces = [
  { value: 0.7, title: 'slower' },
  { value: 1, title: 'as it looks' },
  { value: 1.4, title: 'faster' },
] as const
</script>

<template>
  <ChoiceRow v-model="learns" label="Learning" :options="paces" />
</template>
