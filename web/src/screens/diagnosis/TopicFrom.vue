<script setup lang="ts">
import { computed } from 'vue'
import type { WhereYouStand } from '@climber/core'
import { percentWords } from '../../manners/words'

/** Where the share known of a topic comes from: what was answered of it, the work on it, and what is assumed. */
const props = defineProps<{ topic: WhereYouStand['topics'][number] }>()
const words = {
  tests: 'in tests',
  'sets and drills': 'in sets and drills',
  retests: 'tried again',
  memory: 'from memory',
}
const figure = (value: number) => Number(value.toFixed(1))
const since = computed(() => {
  const days = props.topic.daysSince
  return days === undefined ? 'never' : days <= 0 ? 'today' : days === 1 ? 'yesterday' : `${days} days ago`
})
</script>

<template>
  <ul>
    <li v-for="one in topic.told" :key="one.of">
      {{ figure(one.right) }} of {{ figure(one.answers) }} right {{ words[one.of]
      }}<template v-if="one.of !== 'tests'">, as items of a paper count</template>
    </li>
    <li v-if="!topic.told.length">Nothing of it by itself: the section's answers and your rating tell.</li>
    <li>
      {{ figure(topic.hours) }} h of work on it; last met {{ since }}. At the newest test of the baseline it
      was {{ percentWords(topic.before) }}, as it looks now.
    </li>
    <li v-if="topic.rating">
      Your rating sets it against the other topics, within what was measured of all.
    </li>
    <li>
      Of 100 possible candidates who fit all this, 80 know between {{ percentWords(topic.low) }} and
      {{ percentWords(topic.high) }} of it.
    </li>
  </ul>
</template>
