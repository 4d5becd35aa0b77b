<script setup lang="ts">
import { computed } from 'vue'
import type { TopicGap } from '@climber/core'
import { percentWords } from '../manners/words'

/** Where the points of the next hour come from: what all of a topic is worth, what is not known of it, and how long it takes. */
const props = defineProps<{
  topic: Pick<TopicGap, 'known' | 'yield' | 'value' | 'share' | 'tau' | 'hoursFrom' | 'counts'>
  section: string
}>()
const sources = {
  hand: 'as set by hand',
  shelf: 'as long as one pass through what your materials hold on it takes at your pace',
  exam: 'as the exam format says',
  items: 'by the number of its questions, since nothing says otherwise',
}
const times = computed(() => (props.topic.counts ?? 1).toFixed(1))
</script>

<template>
  <ul>
    <li>
      It is {{ percentWords(topic.share) }} of {{ section }}; all of it known is worth
      <strong>{{ topic.value.toFixed(1) }} points</strong> of the whole score, by the tables about where the
      hours lead.
    </li>
    <li>
      {{ percentWords(1 - topic.known) }} of it is not known yet:
      <strong>{{ (topic.value * (1 - topic.known)).toFixed(1) }} points</strong> to gain.
    </li>
    <li>
      {{ topic.tau.toFixed(1) }} hours close 63% of that ({{ sources[topic.hoursFrom] }}), so the first hour
      brings {{ (topic.value * (1 - topic.known)).toFixed(1) }} / {{ topic.tau.toFixed(1) }} =
      <strong>{{ topic.yield.toFixed(2) }} points</strong>; each later one less.
    </li>
    <li v-if="topic.counts !== undefined">
      Towards the target and every cut a point here counts
      <template v-if="times === '1.0'">as much as one anywhere.</template
      ><template v-else
        ><strong>{{ times }}</strong> times as much as one anywhere: so much likelier is a possible candidate
        to pass by it.</template
      >
    </li>
  </ul>
</template>
