<script setup lang="ts">
import { computed } from 'vue'
import type { SelfRating } from '@climber/contract'
import { useWorkspace } from '../../stores/workspace'

/** How sure one is of a topic, in five words; the same word again takes it back. */
const props = defineProps<{ topic: string; title: string }>()
const words: [SelfRating, string][] = [
  ['not-covered', 'not covered'],
  ['covered', 'in a course'],
  ['weak', 'weak'],
  ['fair', 'fair'],
  ['strong', 'strong'],
]
const workspace = useWorkspace()
const ratings = computed(() => workspace.saves!.ratings)
const rate = (rating: SelfRating) =>
  ratings.value.edit(({ topics }) => {
    if (topics[props.topic] === rating) delete topics[props.topic]
    else topics[props.topic] = rating
  })
</script>

<template>
  <span class="rating" role="group" :aria-label="`${title}: your rating`">
    <button
      v-for="[rating, word] in words"
      :key="rating"
      type="button"
      :aria-pressed="ratings.state.document.topics[topic] === rating"
      @click="rate(rating)"
    >
      {{ word }}
    </button>
  </span>
</template>
