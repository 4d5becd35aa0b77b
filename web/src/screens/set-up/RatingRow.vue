<script setup lang="ts">
import { computed } from 'vue'
import type { SelfRating } from '@climber/contract'
import ChoiceRow from '../../kit/ChoiceRow.vue'
import { useWorkspace } from '../../stores/workspace'

/** How sure one is of a topic, in five words; the same word again takes it back. */
const props = defineProps<{ topic: string; title: string }>()
const words: { value: SelfRating; title: string }[] = [
  { value: 'not-covered', title: 'not covered' },
  { value: 'covered', title: 'in a course' },
  { value: 'weak', title: 'weak' },
  { value: 'fair', title: 'fair' },
  { value: 'strong', title: 'strong' },
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
  <ChoiceRow
    :label="`${title}: your rating`"
    :options="words"
    :model-value="ratings.state.document.topics[topic]"
    @update:model-value="rate"
  />
</template>
